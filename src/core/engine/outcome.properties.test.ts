import fc from "fast-check";
import type { Task } from "./state";
import { outcomeOf, type Voting } from "./vote";

/** What a visit comes to against trying every way in which those who have not answered may. */
const ANSWERS = [
  { id: "yes", tone: "agree" },
  { id: "partly", tone: "agree" },
  { id: "no", tone: "refuse" },
  { id: "never", tone: "refuse" },
  { id: "pass", tone: "plain", abstains: true },
] as const;
const IDS = ANSWERS.map((a) => a.id);
type Id = (typeof IDS)[number];
const AGREE: readonly Id[] = ["yes", "partly"];

const agreesBy = (who: Voting): readonly Id[] => (who.wins ? [who.wins as Id] : AGREE);

/** Whether agreement counts once everybody has answered. */
function agreed(who: Voting, all: readonly Id[]): boolean {
  const yes = all.filter((a) => agreesBy(who).includes(a)).length;
  const votes = all.filter((a) => a !== "pass").length;
  switch (who.how) {
    case "all":
    case "order":
      return yes > 0 && yes === votes;
    case "share":
      return yes > 0 && yes * 100 >= who.share! * votes;
    case "number":
      return yes >= Math.min(who.number!, all.length);
    case "one":
    case "first":
      throw new Error("one answer decides there");
  }
}

function* completions(open: number): Generator<Id[]> {
  if (open === 0) return yield [];
  for (const rest of completions(open - 1)) for (const a of IDS) yield [...rest, a];
}

const voting: fc.Arbitrary<Voting> = fc
  .record({
    by: fc.constantFrom<Voting>(
      { how: "all" },
      { how: "order" },
      { how: "share", share: 34 },
      { how: "share", share: 50 },
      { how: "share", share: 67 },
      { how: "share", share: 100 },
      { how: "number", number: 1 },
      { how: "number", number: 2 },
      { how: "number", number: 9 },
    ),
    wins: fc.option(fc.constantFrom<Id>("yes", "partly", "no")),
    waits: fc.boolean(),
    ties: fc.boolean(),
  })
  .map(({ by, wins, waits, ties }) => ({
    ...by,
    ...(wins ? { wins } : {}),
    ...(waits ? { waits: true as const } : {}),
    ...(ties ? { ties: "first" as const } : {}),
  }));

it("what people have answered counts as soon as nothing that may come can change it, and not before", () => {
  const seen = { agree: 0, other: 0, open: 0, passed: 0 };
  fc.assert(
    fc.property(
      voting,
      fc.shuffledSubarray([...ANSWERS], { minLength: ANSWERS.length }),
      fc.array(fc.constantFrom(...IDS), { minLength: 1, maxLength: 5 }),
      fc.nat(3),
      (who, sheet, given, open) => {
        const asked = given.length + open;
        const tasks = given.map((answer) => ({ visit: "v", status: "answered", answer }) as unknown as Task);
        const is = outcomeOf({ id: "v", asked }, who, sheet, tasks) as Id | null;
        const ends = new Set([...completions(open)].map((rest) => agreed(who, [...given, ...rest])));
        const certain = ends.size === 1 && !(who.waits && open > 0);
        if (!certain) {
          seen.open++;
          expect(is).toBeNull();
          return;
        }
        const [yes] = ends;
        const side = given.filter((a) => (yes ? agreesBy(who).includes(a) : !agreesBy(who).includes(a)));
        const votes = side.filter((a) => a !== "pass");
        // Where nobody decided against it, those who abstained have the last word.
        let of = votes.length > 0 ? votes : side;
        // All who have answered agree, and so many are not there.
        if (of.length === 0) of = given;
        const count = (a: Id) => of.filter((x) => x === a).length;
        const most = Math.max(...of.map(count));
        const alike = sheet.map((a) => a.id).filter((a) => count(a) === most);
        expect(is).toBe(who.ties === "first" ? alike[0] : alike.at(-1));
        seen[yes ? "agree" : "other"]++;
        if (is === "pass") seen.passed++;
      },
    ),
    { seed: 7, numRuns: 4000 },
  );
  for (const n of Object.values(seen)) expect(n).toBeGreaterThan(60);
});

it("of the first to answer whoever abstains is none, unless everybody does", () => {
  const first = (asked: number, ...given: Id[]) =>
    outcomeOf(
      { id: "v", asked },
      { how: "first" },
      ANSWERS,
      given.map((answer) => ({ visit: "v", status: "answered", answer }) as unknown as Task),
    );
  expect(first(3, "pass")).toBeNull();
  expect(first(3, "pass", "no")).toBe("no");
  expect(first(2, "pass", "pass")).toBe("pass");
});

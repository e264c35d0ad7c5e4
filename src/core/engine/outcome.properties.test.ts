import fc from "fast-check";
import type { Task } from "./state";
import { votedBy, VOTE_IDS, VOTES, type VoteId } from "./testVotes";
import { outcomeOf, type Voting } from "./vote";

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
    wins: fc.option(fc.constantFrom<VoteId>("yes", "partly", "no")),
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
      fc.shuffledSubarray([...VOTES], { minLength: VOTES.length }),
      fc.array(fc.constantFrom(...VOTE_IDS), { minLength: 1, maxLength: 5 }),
      fc.nat(3),
      (who, sheet, given, open) => {
        const tasks = given.map((answer) => ({ visit: "v", status: "answered", answer }) as unknown as Task);
        const is = outcomeOf({ id: "v", asked: given.length + open }, who, sheet, tasks);
        const slow = votedBy(
          who,
          sheet.map((a) => a.id),
          given,
          open,
        );
        expect(is).toBe(slow?.answer ?? null);
        if (slow === null) seen.open++;
        else seen[slow.agree ? "agree" : "other"]++;
        if (is === "pass") seen.passed++;
      },
    ),
    { seed: 7, numRuns: 4000 },
  );
  for (const n of Object.values(seen)) expect(n).toBeGreaterThan(60);
});

it("of the first to answer whoever abstains is none, unless everybody does", () => {
  const first = (asked: number, ...given: VoteId[]) =>
    outcomeOf(
      { id: "v", asked },
      { how: "first" },
      VOTES,
      given.map((answer) => ({ visit: "v", status: "answered", answer }) as unknown as Task),
    );
  expect(first(3, "pass")).toBeNull();
  expect(first(3, "pass", "no")).toBe("no");
  expect(first(2, "pass", "pass")).toBe("pass");
});

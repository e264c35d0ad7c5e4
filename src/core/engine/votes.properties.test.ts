import fc from "fast-check";
import type { Step } from "../route";
import { ans, decideBy, definitionOf, fin, harness } from "./testRequest";

/**
 * Votes against a slow, obviously right model: seats with who sits on them, one a person; the step is decided as soon
 * as every way in which the open seats may still answer comes to the same side.
 */
const PEOPLE = ["carmel", "declan", "fergus", "brendan", "eithne"];
type Given = "approve" | "partly" | "decline";
const TONES = { approve: "agree", partly: "agree", decline: "refuse" } as const;

interface Seat {
  person: string;
  answer: Given | null;
}
function sides(seats: readonly Seat[], needed: (asked: number) => number): Set<"agree" | "refuse"> {
  const open = seats.filter((s) => s.answer === null).length;
  const agreed = seats.filter((s) => s.answer !== null && TONES[s.answer] === "agree").length;
  const out = new Set<"agree" | "refuse">();
  // Only how many more agree matters, not who.
  for (let more = 0; more <= open; more++)
    out.add(agreed + more >= needed(seats.length) ? "agree" : "refuse");
  return out;
}

it("each person counts once, and nothing is decided before it is certain, nor later", () => {
  let decided = 0;
  let merged = 0;
  const deed = fc.record({
    who: fc.constantFrom(...PEOPLE),
    to: fc.constantFrom(...PEOPLE),
    answer: fc.constantFrom<Given[]>("approve", "partly", "decline"),
    hands: fc.boolean(),
  });
  const order = fc.shuffledSubarray<Given>(["approve", "partly", "decline"], { minLength: 3 });
  fc.assert(
    fc.property(
      fc.constantFrom({ how: "all" }, { how: "share", share: 60 }, { how: "share", share: 34 }),
      order,
      fc.array(deed, { maxLength: 12 }),
      (how, answers, deeds) => {
        const step = decideBy(
          "check",
          { by: "group", group: "registry" },
          answers.map((a) => ans(a, TONES[a], [fin(`f-${a}`, a, TONES[a])])),
        );
        const who = { rule: { by: "group", group: "registry" }, ...how };
        const h = harness(definitionOf([{ ...step, who } as Step, fin("end", "none")]));
        h.start();
        const needed = (asked: number) => (how.how === "all" ? asked : Math.ceil((asked * how.share!) / 100));
        let seats: Seat[] = ["carmel", "declan", "fergus"].map((person) => ({ person, answer: null }));
        for (const d of deeds) {
          if (h.state.status !== "under way") break;
          const task = h.open().find((t) => t.candidates.some((c) => c.person === d.who));
          const seat = seats.find((s) => s.person === d.who && s.answer === null);
          expect(Boolean(task)).toBe(Boolean(seat));
          if (!task || !seat) continue;
          if (!d.hands) {
            h.send({ type: "answer", actor: d.who, task: task.id, answer: d.answer, note: "", data: {} });
            seat.answer = d.answer;
          } else {
            const r = h.send({ type: "hand over", actor: d.who, task: task.id, to: d.to, note: "" });
            expect(r.ok).toBe(d.to !== d.who);
            if (!r.ok) continue;
            if (seats.some((s) => s !== seat && s.person === d.to)) {
              seats = seats.filter((s) => s !== seat);
              merged++;
            } else seat.person = d.to;
          }
          const given = seats.flatMap((s) => s.answer ?? []);
          const certain = sides(seats, needed);
          if (given.length === 0 || certain.size > 1) {
            expect(h.state.status).toBe("under way");
            continue;
          }
          decided++;
          const side = [...certain][0]!;
          const count = (a: Given) => given.filter((g) => g === a).length;
          const of = answers.filter((a) => TONES[a] === side && count(a) > 0);
          const most = Math.max(...of.map(count));
          expect(h.state.result?.name).toBe(of.filter((a) => count(a) === most).at(-1));
        }
      },
    ),
    { seed: 21, numRuns: 3200 },
  );
  expect(decided).toBeGreaterThan(900);
  expect(merged).toBeGreaterThan(500);
});

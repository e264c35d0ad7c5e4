import { definitionOf, fin } from "../engine/testRequest";
import { KINDS } from "@/kinds";
import type { OfficeFacts } from "../kinds";
import type { Ladder, Limit, Rung, Step } from "../route";
import { CheckCache, problemsOf } from ".";

const OFFICE: OfficeFacts = {
  people: [{ id: "una", name: "Una", manager: null }],
  groups: { registry: ["una"], ghosts: [] },
  duties: { Guard: 1 },
  calendars: [],
  mailboxes: [],
};
const decide = (id: string, limit?: Limit, more: object = {}): Step =>
  ({
    id,
    name: id,
    kind: "decide",
    who: { rule: { by: "duty", duty: "Guard" }, how: "one" },
    answers: [{ id: `${id}-yes`, label: "Yes", tone: "agree", steps: [] }],
    ...(limit ? { limit } : {}),
    ...more,
  }) as Step;
const REMIND: Rung = { id: "r", when: "at", action: { do: "remind" } };
const TWO: Limit = { otherwise: { amount: 2, unit: "working days" }, rungs: [] };
const by = (ladder: string): Limit => ({ ...TWO, ladder });
const ladder = (rung: Partial<Rung> = {}, more: Partial<Ladder> = {}): Ladder => ({
  id: "k",
  name: "Usual",
  rungs: [{ ...REMIND, ...rung }],
  ...more,
});
function found(route: Step[], ladders?: Ladder[]): string[] {
  const d = definitionOf([...route, fin("end", "done")], ladders ? { ladders } : {});
  return problemsOf(d, { kinds: KINDS, registers: {}, office: OFFICE, cache: new CheckCache() }).map(
    (p) => `${p.where.kind} ${p.where.id} ${p.code}`,
  );
}

it("one that is used and says all it must has none", () =>
  expect(found([decide("d", by("k"))], [ladder()])).toEqual([]));
it("that nothing goes by, or that two are called like", () => {
  expect(found([decide("d")], [ladder()])).toEqual(["ladder k ladder-unused"]);
  const other = ladder({}, { id: "m", name: " usual " });
  expect(found([decide("d", by("k")), decide("e", by("m"))], [ladder(), other])).toEqual([
    "ladder k name-twice",
    "ladder m name-twice",
  ]);
  expect(found([decide("d", by("k"))], [ladder({}, { name: " " })])).toEqual(["ladder k no-name"]);
});
it("its rungs are told at it, once, however many limits go by it", () => {
  const all = (rung: Partial<Rung>) => found([decide("d", by("k")), decide("e", by("k"))], [ladder(rung)]);
  expect(all({ when: "after" })).toEqual(["ladder k rung-length"]);
  expect(all({ every: { amount: 0, unit: "days" } })).toEqual(["ladder k bad-every"]);
  expect(all({ if: "" })).toEqual(["ladder k no-condition"]);
  expect(all({ if: "Totl > 1" })).toEqual(["ladder k unknown-name"]);
  expect(all({ action: { do: "add", who: { by: "group", group: "ghosts" } } })).toEqual([
    "ladder k empty-group",
  ]);
});
it("what only a step can know is told there: an answer it does not have, a rung before it is asked", () => {
  const answer: Partial<Rung> = { action: { do: "answer", answer: "d-yes", note: "" } };
  expect(found([decide("d", by("k")), decide("e", by("k"))], [ladder(answer)])).toEqual([
    "step e rung-answer",
  ]);
  const early: Partial<Rung> = { when: "before", length: { amount: 3, unit: "working days" } };
  const longer: Limit = { ...by("k"), otherwise: { amount: 4, unit: "working days" } };
  expect(found([decide("d", by("k")), decide("e", longer)], [ladder(early)])).toEqual(["step d rung-never"]);
  // Counted from elsewhere it may well fall behind that.
  expect(found([decide("d", { ...by("k"), from: { by: "start" } })], [ladder(early)])).toEqual([]);
});
it("rungs beside a ladder would never happen", () =>
  expect(found([decide("d", { ...by("k"), rungs: [REMIND] })], [ladder()])).toEqual(["step d two-ladders"]));
it("reads what a step comes to at the steps that go by it", () => {
  const reads = ladder({ if: 'e.answer = "Yes"' });
  expect(found([decide("e"), decide("d", by("k"))], [reads])).toEqual([]);
  expect(found([decide("d", by("k")), decide("e")], [reads])).toEqual([expect.stringMatching(/^ladder k /)]);
});
it("an answer that only the ladder gives takes no word of a reply", () => {
  const answers = (byLadder: boolean) => [
    { id: "yes", label: "Yes", tone: "agree", steps: [] },
    {
      id: "no",
      label: "No",
      tone: "plain",
      words: "yes",
      steps: [],
      ...(byLadder ? { byLadder: true } : {}),
    },
  ];
  const rungs: Rung[] = [{ ...REMIND, action: { do: "answer", answer: "no", note: "" } }];
  const byMail = { subject: "S", text: "T", reply: true };
  const of = (byLadder: boolean) =>
    found([decide("d", { ...TWO, rungs }, { answers: answers(byLadder), byMail })]).includes(
      "step d words-twice",
    );
  expect([of(false), of(true)]).toEqual([true, false]);
});

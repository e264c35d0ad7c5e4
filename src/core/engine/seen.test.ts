import { personParty } from "../form";
import type { StoredRow } from "../form";
import type { Step } from "../route";
import { changedPaths } from "./changedPaths";
import { definitionOf, harness } from "./testRequest";

const decide = (id: string, person: string): Step => ({
  id,
  name: id,
  kind: "decide",
  who: { rule: { by: "person", person }, how: "one" },
  answers: [
    { id: "yes", label: "Yes", tone: "agree", steps: [] },
    { id: "no", label: "No", tone: "refuse", steps: [] },
  ],
});
const ROUTE: Step[] = [
  {
    id: "g",
    name: "Side by side",
    kind: "together",
    branches: [
      { id: "b1", name: "one", steps: [decide("d1", "brendan")] },
      { id: "b2", name: "two", steps: [decide("d2", "carmel")] },
    ],
  },
];
const lines = {
  id: "lines",
  name: "Lines",
  kind: "lines" as const,
  fields: [
    { id: "item", name: "Item", kind: "text" as const },
    { id: "price", name: "Price", kind: "money" as const },
  ],
};
const fields = [
  { id: "total", name: "Total", kind: "money" as const },
  { id: "secret", name: "Secret", kind: "text" as const },
  lines,
];
const row = (id: string, item: string, price: string): StoredRow => ({ "#": id, item, price });
const run = (access: Record<string, Record<string, "edit" | "see" | "hide">>) => {
  const h = harness(definitionOf(ROUTE, { fields, access: { start: {}, ...access } as never }));
  h.send({
    type: "start",
    actor: "una",
    requester: personParty("una"),
    number: "TEST-0001",
    data: { total: "5", secret: "x", lines: [row("1", "a", "1.00")] },
  });
  return h;
};
type Run = ReturnType<typeof run>;
const answer = (h: Run, who: string, data: object, seen: number | undefined, choice = "yes") => {
  const task = Object.values(h.state.tasks).find(
    (t) => t.status === "open" && t.candidates[0]!.person === who,
  )!;
  return h.send({
    type: "answer",
    actor: who,
    task: task.id,
    answer: choice,
    note: "",
    data: data as never,
    ...(seen === undefined ? {} : { seen }),
  });
};
const EDIT = { total: "edit", lines: "edit" } as const;

it("an answer over values that changed since is refused, names them, and goes through once they were seen", () => {
  const h = run({ d1: EDIT, d2: EDIT });
  const seen = h.state.seq;
  expect(answer(h, "brendan", { lines: [row("1", "a", "1.00"), row("n", "b", "2.00")] }, seen).ok).toBe(true);
  const late = answer(h, "carmel", { lines: [row("1", "a", "9.00")] }, seen);
  expect(late).toMatchObject({
    ok: false,
    refusal: { code: "changed-since", data: { fields: ["Lines"], seq: h.state.seq } },
  });
  expect(h.state.data["lines"]).toHaveLength(2);
  const merged = [row("1", "a", "9.00"), row("n", "b", "2.00")];
  expect(answer(h, "carmel", { lines: merged }, h.state.seq).ok).toBe(true);
  expect(h.state.data["lines"]).toEqual(merged);
});

it("a refusal is looked at once more like any answer", () => {
  const h = run({ d1: EDIT, d2: EDIT });
  const seen = h.state.seq;
  answer(h, "brendan", { total: "6" }, seen);
  expect(answer(h, "carmel", {}, seen, "no")).toMatchObject({
    ok: false,
    refusal: { data: { fields: ["Total"] } },
  });
});

it("what one may not see is no reason, column by column", () => {
  const h = run({
    d1: { secret: "edit", lines: "edit" },
    d2: { secret: "hide", price: "hide", lines: "edit" },
  });
  const seen = h.state.seq;
  answer(h, "brendan", { secret: "y", lines: [row("1", "a", "7.00")] }, seen);
  expect(answer(h, "carmel", {}, seen).ok).toBe(true);
  const open = run({ d1: { lines: "edit" } });
  const then = open.state.seq;
  answer(open, "brendan", { lines: [row("1", "a", "7.00")] }, then);
  expect(answer(open, "carmel", {}, then)).toMatchObject({ refusal: { data: { fields: ["Lines: Price"] } } });
});

it("nobody looking, nothing is held up", () => {
  const h = run({ d1: EDIT, d2: EDIT });
  answer(h, "brendan", { total: "6" }, undefined);
  expect(answer(h, "carmel", {}, undefined).ok).toBe(true);
});

it("tells rows that came and went from cells that changed", () => {
  const before = { a: "1", t: [row("1", "a", "1"), row("2", "b", "2")] };
  expect(changedPaths(before, { a: "1", t: [row("1", "a", "1"), row("2", "b", "2")] })).toEqual([]);
  expect(changedPaths(before, { a: "2", t: [row("1", "a", "3"), row("2", "b", "2")] })).toEqual([
    "a",
    "t/price",
  ]);
  expect(changedPaths(before, { t: [row("2", "b", "2"), row("1", "a", "1")] })).toEqual(["t"]);
  expect(changedPaths(before, { t: [row("1", "c", "1")] })).toEqual(["t", "t/item"]);
  expect(changedPaths(before, { t: null })).toEqual(["t"]);
  expect(changedPaths({}, { a: null, t: [] })).toEqual([]);
});

import {
  itemsRead,
  NEW_REQUEST,
  scopesTouched,
  type RequestState,
  type Run,
  type Scope,
  type Token,
} from ".";

const token = (id: string, scope?: string): Token => ({
  id,
  step: "s",
  parent: null,
  branch: null,
  ...(scope ? { scope } : {}),
});
const scope = (id: string, run: string, index: number, parent: string | null = null): Scope => ({
  id,
  run,
  index,
  parent,
  of: 9,
  one: "",
  name: "",
  outcomes: {},
  kept: {},
});
const run = (id: string, items: string[], more: Partial<Run> = {}): Run => ({
  id,
  token: "k1",
  step: "f",
  list: "b",
  scope: null,
  items,
  atOnce: 1,
  stuckHolds: false,
  next: 1,
  open: 1,
  ended: 0,
  calledOff: 0,
  collected: [],
  ...more,
});

/** Rounds a and b of one run, and in each of them a round of another. */
const STATE: RequestState = {
  ...NEW_REQUEST,
  tokens: {
    k1: token("k1"),
    a: token("a", "a"),
    b: token("b", "b"),
    a1: token("a1", "a1"),
    b1: token("b1", "b1"),
  },
  scopes: {
    a: scope("a", "n", 0),
    b: scope("b", "n", 1),
    a1: scope("a1", "na", 0, "a"),
    b1: scope("b1", "nb", 0, "b"),
  },
  runs: {
    n: run("n", ["A", "B", "C"], { next: 2, open: 2 }),
    na: run("na", ["A1", "A2"], { scope: "a", token: "a" }),
    nb: run("nb", ["B1", "B2"], { scope: "b", token: "b", parked: true }),
  },
  pending: { e: { id: "e", token: "a1", step: "s", kind: "find" } },
};
const read = (c: Parameters<typeof scopesTouched>[1]) => itemsRead(STATE, scopesTouched(STATE, c)).sort();

it("a command reads its own round, those around it and what it may open next; nothing of other rounds", () => {
  expect(read({ type: "effect", effect: "e" })).toEqual(["A", "A1", "A2", "C"]);
  expect(read({ type: "retry", actor: "una", token: "b" })).toEqual(["B", "B2", "C"]);
  expect(read({ type: "retry", actor: "una", token: "k1" })).toEqual(["C"]);
});

it("what goes on with parked rounds reads those, and what may come to anybody's task reads all", () => {
  expect(read({ type: "go on" })).toEqual(["B", "B2", "C"]);
  expect(read({ type: "ask others" })).toEqual(["A", "A1", "A2", "B", "B1", "B2", "C"]);
  expect(read({ type: "withdraw", actor: "una", note: "" })).toEqual(["C"]);
});

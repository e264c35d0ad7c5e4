import { applyEdit, type Edit } from "@/core/route";
import { base, fin } from "@/core/route/testDefinition";
import { KINDS } from "@/kinds";
import {
  listsAbove,
  listUpOrDown,
  nested,
  unnested,
  upOrDown,
  type ListRow,
  type StepRow,
} from "./routeMoves";
import { sheetRows } from "./rows";

const AROUND = { registers: {}, kinds: KINDS };
let now = base;
const rows = () => sheetRows(now);
const row = (id: string) => rows().find((r) => r.id === id);
const does = (e: Edit | null) => {
  if (!e) return false;
  const r = applyEdit(now, e, AROUND);
  if (!r.ok) throw new Error(r.refusal.code);
  now = r.definition;
  return true;
};
/** The sheet as it reads: each row with how deep it stands. */
const reads = () => rows().map((r) => `${"  ".repeat(r.depth)}${r.id}`);
const place = (id: string) => (row(id) as StepRow).ref;
beforeEach(() => (now = base));

it("goes down through every list and out again, and back up the same way", () => {
  now = { ...base, route: [fin("x"), ...base.route] };
  const where: unknown[] = [place("x")];
  // Nothing but moving down takes it past the whole route.
  for (let i = 0; i < 4; i++) {
    does(upOrDown(rows(), now.route, row("x") as StepRow, 1));
    where.push(place("x"));
  }
  const end = reads();
  expect(new Set(where.map((w) => JSON.stringify(w))).size).toBe(1);
  for (let i = 0; i < 4; i++) does(upOrDown(rows(), now.route, row("x") as StepRow, -1));
  expect(reads()).not.toEqual(end);
  expect(upOrDown(rows(), now.route, row("x") as StepRow, -1)).toBeNull();
});
it("past the end of a list stands the next list of the same step, then what is behind the step", () => {
  const f2 = () => row("f2") as StepRow;
  expect(place("f2")).toEqual({ owner: "c1", list: "w1" });
  does(upOrDown(rows(), now.route, f2(), 1));
  expect(place("f2")).toEqual({ owner: "c1", list: "w2" });
  does(upOrDown(rows(), now.route, f2(), 1));
  expect(place("f2")).toEqual({ owner: null, list: null });
  expect(now.route.map((s) => s.id)).toEqual(["d1", "c1", "f2", "g1", "f3"]);
  does(nested(now.route, f2()));
  expect(place("f2")).toEqual({ owner: "c1", list: "w2" });
  does(upOrDown(rows(), now.route, f2(), -1));
  expect(place("f2")).toEqual({ owner: "c1", list: "w1" });
  does(upOrDown(rows(), now.route, f2(), -1));
  expect(now.route.map((s) => s.id)).toEqual(["d1", "f2", "c1", "g1", "f3"]);
});
it("goes into any list of the step above, by name, but not where an answer leads back", () => {
  const f3 = () => row("f3") as StepRow;
  expect(listsAbove(now.route, f3()).map((l) => l.name)).toEqual(["branch “a”", "branch “b”"]);
  does(nested(now.route, f3(), "b1"));
  expect(place("f3")).toEqual({ owner: "g1", list: "b1" });
  does(unnested(rows(), f3()));
  expect(place("f3")).toEqual({ owner: null, list: null });
  expect(nested(now.route, f3(), "nowhere")).toBeNull();
  const d1 = now.route[0] as Extract<(typeof now.route)[0], { kind: "decide" }>;
  const back = { id: "back", label: "Back", tone: "plain" as const, returns: true as const, steps: [] };
  now = { ...now, route: [{ ...d1, answers: [...d1.answers, back] }, fin("y")] };
  expect(listsAbove(now.route, row("y") as StepRow).map((l) => l.list)).toEqual(["yes", "no"]);
});
it("answers, ways and branches change places among themselves", () => {
  const list = (id: string) => row(id) as ListRow;
  expect(listUpOrDown(list("c1/w1"), -1)).toBeNull();
  does(listUpOrDown(list("c1/w1"), 1));
  expect(
    reads()
      .filter((r) => r.includes("c1/"))
      .map((r) => r.trim()),
  ).toEqual(["c1/w2", "c1/w1"]);
  does(listUpOrDown(list("c1/w1"), -1));
  expect(now).toEqual(base);
});

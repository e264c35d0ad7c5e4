import { compileRelease, forgetEvents, NEW_REQUEST, replay } from "@/core/engine";
import { definitionOf, fin, harness } from "@/core/engine/testRequest";
import type { Field, FileFacts } from "@/core/form";
import { officeFactsOf, problemsOf } from "@/core/problems";
import type { ProcessDefinition, Step } from "@/core/route";
import { KINDS } from "@/kinds";

const file = (id: string): FileFacts => ({ id, name: `${id}.pdf`, size: 9, type: "application/pdf", at: 0 });
const files = { f1: file("f1"), f2: file("f2") };
const FIELDS: Field[] = [
  { id: "total", name: "Total", kind: "money" },
  { id: "papers", name: "Papers", kind: "files" },
];
const bring = (more: object = {}): Step =>
  ({
    id: "b",
    name: "Print",
    kind: "bring",
    what: "Papers",
    to: { outlet: "print room", copies: "Total" },
    ...more,
  }) as Step;
const shelf = (folder: string) => ({ to: { outlet: "shelf", folder } });
const process = (step: Step): ProcessDefinition => definitionOf([step, fin("e", "done")], { fields: FIELDS });
function begun(step: Step, data: Record<string, string>) {
  const h = harness(process(step), {}, {}, () => ({ files }));
  h.start(data);
  return h;
}
const effectOf = (h: ReturnType<typeof begun>) => h.events.find((e) => e.type === "effect asked")?.effect;

it("asks for each file once, with where it is to go, and goes on once it is there", () => {
  const h = begun(bring(), { total: "2", papers: "f1\nf2\nf1" });
  expect(effectOf(h)).toMatchObject({ files: ["f1", "f2"], to: { outlet: "print room", copies: 2 } });
  const [pending] = Object.values(h.state.pending);
  h.send({
    type: "effect done",
    effect: { id: pending!.id, step: "b", kind: "bring" },
    result: { brought: 2, jobs: ["P-1", "P-2"] },
  });
  expect(h.state.status).toBe("finished");
  const twice = begun(bring({ what: "[Papers[2], Papers[1], Papers[2]]" }), { total: "2", papers: "f1\nf2" });
  expect(effectOf(twice)).toMatchObject({ files: ["f2", "f1"] });
  const onShelf = begun(bring(shelf("Loans/{Request.number}")), { total: "2", papers: "f1" });
  expect(effectOf(onShelf)).toMatchObject({ to: { outlet: "shelf", folder: "Loans/TEST-0001" } });
});

it.each(["0", "101", "1.5"])("stops where %s copies are to be made, and nothing is printed", (total) => {
  const h = begun(bring(), { total, papers: "f1" });
  expect(h.state.stuck).toMatchObject([{ reason: { code: "not-brought" } }]);
  expect(effectOf(h)).toBeUndefined();
});

it("stops where what is brought, or how many, cannot be worked out", () => {
  const h = begun(bring({ what: "Papers[1 / (Total - Total)]" }), { total: "2", papers: "f1" });
  expect(h.state.stuck).toMatchObject([{ reason: { code: "unclear" } }]);
  const none = begun(bring(), { papers: "f1" });
  expect(none.state.stuck).toHaveLength(1);
});

it("a retry asks for the same again, under the same id", () => {
  const h = begun(bring(), { total: "1", papers: "f1" });
  const first = effectOf(h)!;
  const reason = { code: "not-brought" as const, data: { step: "Print", message: "jammed." } };
  h.send({ type: "effect failed", effect: first.id, reason });
  h.send({ type: "retry", actor: "una", token: h.state.stuck[0]!.token });
  expect(Object.keys(h.state.pending)).toEqual([first.id]);
});

it("forgets folders, which may tell of somebody", () => {
  const d = process(bring(shelf("Borrowers/Niamh")));
  const h = harness(d, {}, {}, () => ({ files }));
  h.start({ total: "1", papers: "f1" });
  const [pending] = Object.values(h.state.pending);
  const brought = { brought: 1, jobs: [] };
  h.send({ type: "effect done", effect: { id: pending!.id, step: "b", kind: "bring" }, result: brought });
  const gone = { fields: new Set(["papers"]), inCalls: true, asker: true, notesOf: null };
  const left = forgetEvents(h.events, compileRelease(d, {}, KINDS), gone);
  expect(JSON.stringify(left)).not.toContain("Niamh");
  expect(replay(left, NEW_REQUEST).status).toBe("finished");
});

describe("what is wrong with it", () => {
  const office = (outlets?: ("shelf" | "print room")[]) =>
    officeFactsOf({
      people: [],
      groups: [],
      duties: [],
      calendars: [],
      mailboxes: [],
      ...(outlets ? { outlets } : {}),
    });
  const wrong = (step: Step, outlets?: ("shelf" | "print room")[]) =>
    problemsOf(process(step), { kinds: KINDS, registers: {}, office: office(outlets) }).flatMap((p) =>
      p.where.id === "b" ? [p.code] : [],
    );
  it("is told", () => {
    expect(wrong(bring())).toEqual([]);
    expect(wrong(bring(), ["print room"])).toEqual([]);
    expect(wrong(bring(), ["shelf"])).toEqual(["no-outlet"]);
    expect(wrong(bring(shelf("x")), ["shelf"])).toEqual([]);
    expect(wrong(bring({ what: "" }))).toEqual(["nothing-to-bring"]);
    expect(wrong(bring({ what: "Total" }))).toEqual(["no-file"]);
    expect(wrong(bring({ what: "Papers[1]" }))).toEqual([]);
  });
});

import { forgetEvents, NEW_REQUEST, replay, samplePath } from "@/core/engine";
import { officeFacts } from "@/core/engine/testOffice";
import { compileRelease } from "@/core/engine";
import { definitionOf, fin, harness, T0 } from "@/core/engine/testRequest";
import type { Field } from "@/core/form";
import { portsOf, type LiveProcedure } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import { isHandedTo, mayBegin, type ProcessDefinition, type Start, type Step } from "@/core/route";
import { KINDS } from "@/kinds";

const FIELDS: Field[] = [
  { id: "subject", name: "Subject", kind: "text", needed: "true", hand: "in" },
  { id: "amount", name: "Amount", kind: "money", hand: "in and out" },
];
const asks = (more: object = {}): Step =>
  ({
    id: "s",
    name: "Papers",
    kind: "start request",
    process: "papers",
    ...portsOf(FIELDS),
    values: [
      { port: "subject", value: "Reason" },
      { port: "amount", value: "Total * 2" },
    ],
    waits: true,
    endsWith: true,
    ...more,
  }) as Step;
const note = (value: string): Step => ({
  id: "n",
  name: "Note",
  kind: "work out",
  set: [{ field: "secret", value }],
});
const READ = 'Papers.number + " " + Papers.result + " " + string(Papers.Amount)';
const caller = (...route: Step[]) => definitionOf([...route, fin("e", "done")]);
const START = { total: "21", reason: "Ropes of Niamh" };

function begun(d = caller(asks(), note(READ))) {
  const h = harness(d);
  h.start(START);
  const [pending] = Object.values(h.state.pending);
  const asked = h.events.find((e) => e.type === "effect asked");
  const came = (result: string | null, values: [string, { num: string } | null][] = []) =>
    h.send({
      type: "effect done",
      effect: { id: pending!.id, step: "s", kind: "start request" },
      result: { number: "PAP-0007", result, values },
    });
  return { h, asked, came };
}

describe("Start request", () => {
  it("asks for one with what is handed over, and waits", () => {
    const { h, asked, came } = begun();
    expect(asked).toMatchObject({
      effect: {
        kind: "start request",
        process: "papers",
        values: [
          ["subject", "Ropes of Niamh"],
          ["amount", { num: "42" }],
        ],
        waits: true,
        endsWith: true,
      },
    });
    expect(h.state.status).toBe("under way");
    came("agreed", [["amount", { num: "50" }]]);
    expect(h.state).toMatchObject({ status: "finished", data: { secret: "PAP-0007 agreed 50" } });
    // Told again, nothing happens.
    const { seq } = h.state;
    came("declined");
    expect(h.state.seq).toBe(seq);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("reads only the number where it does not wait, and nothing of an earlier time", () => {
    const back = { id: "j", name: "Jump", kind: "jump", to: "s", when: 'Papers.number = "PAP-0007"' } as Step;
    const { h, came } = begun(caller(asks({ waits: false }), note("Papers.number"), back));
    came(null);
    expect(h.state.data["secret"]).toBe("PAP-0007");
    // Entered again, it has none yet.
    expect(h.state.kept["s"]).toEqual({ value: null });
  });

  it("does not hand over what cannot be worked out: it is stuck with the reason", () => {
    const values = [{ port: "subject", value: "string(1 / (Total - 21))" }];
    const { h } = begun(caller(asks({ values })));
    expect(h.state.stuck).toMatchObject([{ step: "s", reason: { code: "unclear" } }]);
    expect(h.state.pending).toEqual({});
  });

  it("forgets what was handed over and came back", () => {
    const { h, came } = begun();
    came("agreed", [["amount", { num: "50" }]]);
    const release = compileRelease(caller(asks(), note(READ)), {}, KINDS);
    const gone = {
      fields: new Set(["reason", "secret", "total"]),
      inCalls: true,
      asker: true,
      notesOf: null,
    };
    const left = forgetEvents(h.events, release, gone);
    expect(JSON.stringify(left)).not.toMatch(/Niamh|"42"|"50"/);
    expect(replay(left, NEW_REQUEST).status).toBe("finished");
  });

  it("is passed by a sample, which starts nothing", () => {
    const release = compileRelease(caller(asks(), fin("x", "done")), {}, KINDS);
    expect(samplePath(release, "una", START, officeFacts(T0))).toMatchObject({ result: "done", stop: null });
  });
});

describe("a draft that starts requests", () => {
  const live = (more: Partial<LiveProcedure> = {}) => ({
    papers: {
      key: "papers",
      name: "Papers",
      version: "1.0.0",
      versions: ["1.0.0"],
      handsTo: [],
      from: "any" as const,
      ...portsOf(FIELDS),
      ...more,
    },
  });
  const codes = (d: ProcessDefinition, procedures: Record<string, LiveProcedure> = live()) =>
    problemsOf(d, { kinds: KINDS, registers: {}, procedures }).map(
      (p) => `${p.severity} ${p.where.id} ${p.code}`,
    );

  it("is right, or says what is missing", () => {
    expect(codes(caller(asks(), note(READ)))).toEqual([]);
    expect(codes(caller(asks({ process: "" })))).toContain("error s no-process");
    expect(codes(caller(asks({ values: [] })))).toEqual(["error s not-given"]);
    expect(codes(caller(asks()), {})).toEqual(["error s not-live"]);
    expect(codes(caller(asks()), live({ from: ["other"] }))).toEqual(["error s may-not-start"]);
    expect(codes(caller(asks()), live({ from: ["other", "test"] }))).toEqual([]);
    // A procedure is handed to, and not started as a request.
    const { from: _, ...procedure } = live().papers;
    expect(codes(caller(asks()), { papers: procedure })).toEqual(["error s not-live"]);
    expect(codes(caller(asks()), live(portsOf(FIELDS.slice(0, 1))))).toEqual(["error s other-ports"]);
    // What is not waited for is not read, and may be handed back otherwise.
    const given = [{ port: "subject", value: "Reason" }];
    expect(codes(caller(asks({ waits: false, values: given })), live({ gives: [] }))).toEqual([]);
    expect(codes(caller(asks({ waits: false }), note("Papers.result")))).toContain("error n unknown-name");
  });

  it("warns where one leads back to itself, by whatever way", () => {
    const back = live({ handsTo: ["middle"] });
    const middle = { ...back.papers, key: "middle", name: "Middle", handsTo: ["test"] };
    expect(codes(caller(asks()), { ...back, middle })).toEqual(["warning s circle"]);
  });
});

describe("the start by another process", () => {
  const handed = (from: Extract<Start, { kind: "handed" }>["from"]): Start => ({
    id: "h",
    kind: "handed",
    from,
  });
  const of = (...starts: Start[]) => definitionOf([fin("e", "x")], { starts });
  const form: Start = { id: "form", kind: "form", who: { by: "everybody" } };

  it("lets those start one that are named, or any, and nobody where there is none", () => {
    expect(mayBegin(of(form), "a", KINDS)).toBe(false);
    expect(isHandedTo(of(form), KINDS)).toBe(false);
    expect(mayBegin(of(handed({ by: "any" })), "a", KINDS)).toBe(true);
    const two = of(form, handed({ by: "these", processes: ["a", "b"] }));
    expect(["a", "b", "c", "any"].map((k) => mayBegin(two, k, KINDS))).toEqual([true, true, false, false]);
    expect(mayBegin(of(handed({ by: "these", processes: [] })), "a", KINDS)).toBe(false);
    expect(isHandedTo(of(handed({ by: "these", processes: [] })), KINDS)).toBe(true);
  });

  it("says what cannot be handed over, and that somebody must be named", () => {
    const file: Field = { id: "f", name: "File", kind: "file", hand: "out" };
    const named: Field = { id: "n", name: "number", kind: "text", hand: "out" };
    const d = { ...of(handed({ by: "these", processes: [] })), fields: [file, named] };
    const found = problemsOf(d, { kinds: KINDS, registers: {} }).map((p) => `${p.where.id} ${p.code}`);
    expect(found).toEqual(expect.arrayContaining(["f hand-kind", "n hand-name", "h no-process"]));
    // Nobody hands values to a process that is started by its form only.
    const own = { ...of(form), fields: [file, named] };
    const alone = problemsOf(own, { kinds: KINDS, registers: {} }).map((p) => p.code);
    expect(alone.filter((c) => c.startsWith("hand-"))).toEqual([]);
  });
});

import {
  allTasks,
  compileRelease,
  forgetEvents,
  NEW_REQUEST,
  newsOf,
  replay,
  samplePath,
} from "@/core/engine";
import { ans, decideBy, definitionOf, fin, harness, proceduresOf, T0 } from "@/core/engine/testRequest";
import { officeFacts } from "@/core/engine/testOffice";
import type { Field } from "@/core/form";
import { broken, portsOf } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import { applyEdit, type ProcessDefinition, type Step } from "@/core/route";
import { KINDS } from "@/kinds";

const FIELDS: Field[] = [
  { id: "subject", name: "Subject", kind: "text", needed: "true", hand: "in" },
  { id: "amount", name: "Amount", kind: "money", hand: "in" },
  { id: "double", name: "Double", kind: "money", worked: "Amount * 2", hand: "out" },
  { id: "word", name: "Word", kind: "text", hand: "out" },
];
const look = (id = "look", person = "carmel"): Step => ({
  ...decideBy(id, { by: "person", person }, [
    ans("good", "agree"),
    ans("bad", "refuse", [fin(`${id}-bad`, "not good", "refuse")]),
  ]),
  name: "Look",
});
const word: Step = {
  id: "w",
  name: "Say",
  kind: "work out",
  set: [{ field: "word", value: 'Subject + "!"' }],
};
const procedure = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition =>
  definitionOf(route, {
    key: "check",
    name: "Check",
    starts: [],
    numbering: { prefix: "", digits: 4 },
    fields: FIELDS,
    procedure: true,
    ...more,
  });
const CHECK = procedure([word, look(), fin("pe", "fine")]);
const handTo = (id: string, more: object = {}, of = CHECK): Step =>
  ({
    id,
    name: "Hand over",
    kind: "hand to",
    procedure: of.key,
    ...portsOf(of.fields),
    values: [
      { port: "subject", value: "Reason" },
      { port: "amount", value: "Total" },
    ],
    ...more,
  }) as Step;
const note: Step = {
  id: "n",
  name: "Note",
  kind: "work out",
  set: [
    { field: "secret", value: 'Hand over.result + " " + Hand over.Word + " " + string(Hand over.Double)' },
  ],
};
const START = { total: "21", reason: "Ropes" };
const caller = (...route: Step[]) => definitionOf([...route, fin("e", "done")]);

function drive(d: ProcessDefinition, all: Record<string, ProcessDefinition[]> = { check: [CHECK] }) {
  const procedures = proceduresOf(all);
  return harness(d, {}, {}, () => ({}), procedures);
}

describe("a procedure", () => {
  it("goes through its own route with what it is handed, and hands back", () => {
    const h = drive(caller(handTo("h"), note));
    h.start(START);
    expect(h.asked()).toEqual(["carmel"]);
    const [task] = h.open();
    expect(task).toMatchObject({ step: "h~look", id: expect.stringMatching(/^c\d+~t\d+$/) as string });
    // Of the request itself nothing is asked, and nothing of the procedure is among its values.
    expect(Object.keys(h.state.tasks)).toEqual([]);
    expect(h.state.data).toEqual({ total: "21", reason: "Ropes", secret: null });
    h.answer("carmel", "good");
    expect(h.state).toMatchObject({ status: "finished", data: { secret: "fine Ropes! 42" } });
    expect(h.open()).toEqual([]);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("begins with what its fields say where nothing is handed over, whatever order they stand in", () => {
    const begins = (order: (f: Field[]) => Field[]) =>
      procedure([word, look(), fin("pe", "fine")], {
        fields: order(
          FIELDS.map((f) => {
            if (f.id === "subject") return { ...f, starting: '"About " + string(Amount)' };
            return f.id === "amount" ? { ...f, starting: "if Subject = null then 7 else 9" } : f;
          }),
        ),
      });
    for (const order of [(f: Field[]) => f, (f: Field[]) => [...f].reverse()]) {
      const of = begins(order);
      const run = (values: object[]) => {
        const h = drive(caller(handTo("h", { values }, of), note), { check: [of] });
        h.start(START);
        const [call] = Object.values(h.state.calls);
        return call ? call.state.data : h.state.stuck.map((s) => s.reason);
      };
      const [subject, amount] = [
        { port: "subject", value: "Reason" },
        { port: "amount", value: "Total" },
      ];
      expect(run([subject, amount])).toMatchObject({ subject: "Ropes", amount: "21" });
      expect(run([amount])).toMatchObject({ subject: "About 21", amount: "21", double: "42" });
      expect(run([subject])).toMatchObject({ subject: "Ropes", amount: "9" });
      // Each reads what was handed over, and nothing what another begins with.
      expect(run([])).toMatchObject([{ code: "bad-inputs", data: { fields: "Subject" } }]);
      // Nothing handed over is the same as something empty.
      expect(run([subject, { port: "amount", value: "null" }])).toMatchObject({ amount: "9" });
    }
    expect(portsOf(begins((f) => f).fields).takes.map((t) => t.needed)).toEqual([undefined, undefined]);
  });

  it("is not begun where what a field begins with cannot be worked out", () => {
    const of = procedure([fin("pe", "fine")], {
      fields: FIELDS.map((f) => (f.id === "amount" ? { ...f, starting: "number(Subject)" } : f)),
    });
    const h = drive(caller(handTo("h", { values: [{ port: "subject", value: "Reason" }] }, of)), {
      check: [of],
    });
    h.start(START);
    expect(h.state).toMatchObject({
      calls: {},
      stuck: [{ reason: { code: "bad-inputs", data: { fields: "Amount" } } }],
    });
  });

  it("ends with its own result, which ends nothing but itself", () => {
    const h = drive(caller(handTo("h"), note));
    h.start(START);
    h.answer("carmel", "bad");
    expect(h.state).toMatchObject({ status: "finished", data: { secret: "not good Ropes! 42" } });
  });

  it("is gone through on the release that is live when it is entered, whatever is released meanwhile", () => {
    const all = { check: [CHECK] };
    const h = drive(caller(handTo("h"), handTo("h2", { name: "Again" })), all);
    h.start(START);
    all.check.push(procedure([look("look", "declan"), fin("pe", "second")]));
    expect(h.asked()).toEqual(["carmel"]);
    h.answer("carmel", "good");
    expect(h.asked()).toEqual(["declan"]);
    expect(h.state.kept["h"]).toEqual({
      value: {
        entries: [
          ["result", "fine"],
          ["Double", { num: "42" }],
          ["Word", "Ropes!"],
        ],
      },
    });
    h.answer("declan", "good");
    expect(h.state.status).toBe("finished");
  });

  it("of a fixed version stays on that", () => {
    const all = { check: [CHECK, procedure([look("look", "declan"), fin("pe", "second")])] };
    const h = drive(caller(handTo("h", { version: "1.0.0" })), all);
    h.start(START);
    expect(h.asked()).toEqual(["carmel"]);
  });

  it("that is not live, takes something no more, or is handed too little stops with the reason", () => {
    const gone = drive(caller(handTo("h")), {});
    gone.start(START);
    expect(gone.state.stuck).toMatchObject([{ step: "h", reason: { code: "no-procedure" } }]);
    const less = drive(caller(handTo("h")), {
      check: [procedure([fin("pe", "x")], { fields: FIELDS.filter((f) => f.id !== "amount") })],
    });
    less.start(START);
    expect(less.state.stuck).toMatchObject([
      { reason: { code: "other-procedure", data: { name: "amount" } } },
    ]);
    const little = drive(caller(handTo("h")));
    little.start({ total: "21" });
    expect(little.state.stuck).toMatchObject([
      { reason: { code: "bad-inputs", data: { fields: "Subject" } } },
    ]);
    expect(Object.keys(little.state.calls)).toEqual([]);
    const unclear = drive(
      caller(handTo("h", { values: [{ port: "subject", value: "string(1 / (Total - 21))" }] })),
    );
    unclear.start(START);
    expect(unclear.state.stuck).toMatchObject([{ step: "h", reason: { code: "unclear" } }]);
  });

  it("is handed what it takes, and nothing else: what it hands back and keeps to itself is its own", () => {
    const own: Field = { id: "own", name: "Own", kind: "text", needed: "true" };
    // What it needs of its own is its people's to fill in.
    const h = drive(caller(handTo("h")), {
      check: [procedure([look(), fin("pe", "x")], { fields: [...FIELDS, own] })],
    });
    h.start(START);
    expect(h.asked()).toEqual(["carmel"]);
    for (const port of ["word", "own"]) {
      const values = [
        { port: "subject", value: "Reason" },
        { port, value: '"put in from outside"' },
      ];
      const g = drive(caller(handTo("h", { values })), {
        check: [procedure([look()], { fields: [...FIELDS, own] })],
      });
      g.start(START);
      expect(g.state.stuck).toMatchObject([{ reason: { code: "other-procedure" } }]);
    }
  });

  it("that is gone without the second time hands nothing back, not what it did the first time", () => {
    const all: Record<string, ProcessDefinition[]> = { check: [procedure([word, fin("pe", "fine")])] };
    const count: Step = {
      id: "c",
      name: "Count",
      kind: "work out",
      set: [{ field: "secret", value: 'if Hand over.Word = null then "nothing" else Hand over.Word' }],
    };
    const ask = decideBy("again", { by: "person", person: "declan" }, [
      ans("once", "agree", [{ id: "j", name: "Back", kind: "jump", to: "h" } as Step]),
      ans("end", "agree"),
    ]);
    const h = drive(caller(handTo("h"), count, ask), all);
    h.start(START);
    expect(h.state.data["secret"]).toBe("Ropes!");
    delete all["check"];
    h.answer("declan", "once");
    const { token } = h.state.stuck[0]!;
    h.send({ type: "skip", actor: "eithne", token, way: null, note: "closed" });
    expect(h.state.data["secret"]).toBe("nothing");
  });

  it("leaves behind what its people are asked for beside it: that stays with them, or with others, when it has ended", () => {
    const errand: Step = {
      id: "er",
      name: "Errand",
      kind: "complete",
      who: {
        rule: { by: "person", person: "carmel" },
        how: "one",
        fallback: { by: "person", person: "eithne" },
      },
      button: "Done",
      beside: "stays",
    } as Step;
    const h = drive(caller(handTo("h"), look("last", "fergus")), {
      check: [procedure([errand, word, fin("pe", "x")])],
    });
    h.start(START);
    expect(h.asked()).toEqual(["carmel", "fergus"]);
    h.left.add("carmel");
    h.send({ type: "ask others" });
    expect(h.asked()).toEqual(["eithne", "fergus"]);
    h.answer("fergus", "good");
    expect(h.state.status).toBe("finished");
    expect(h.asked()).toEqual(["eithne"]);
    expect(h.answer("eithne", "done")).toMatchObject({ ok: true });
    expect(h.open()).toEqual([]);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("is called off with the round or branch that waits for it", () => {
    const either: Step = {
      id: "t",
      name: "Either",
      kind: "together",
      needs: 1,
      branches: [
        { id: "a", name: "A", steps: [handTo("h")] },
        { id: "b", name: "B", steps: [look("direct", "declan")] },
      ],
    } as Step;
    const h = drive(caller(either, look("last", "fergus")));
    h.start(START);
    h.answer("declan", "good");
    expect(h.asked()).toEqual(["fergus"]);
    expect(allTasks(h.state).find((x) => x.step === "h~look")).toMatchObject({ status: "closed" });
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("that hands something back no more is not gone through twice by a retry", () => {
    const less = procedure([look(), fin("pe", "x")], { fields: FIELDS.filter((f) => f.id !== "word") });
    const all = { check: [less] };
    const h = drive(caller(handTo("h"), note), all);
    h.start(START);
    h.answer("carmel", "good");
    expect(h.state.stuck).toMatchObject([{ step: "h", reason: { code: "nothing-back" } }]);
    const { token } = h.state.stuck[0]!;
    h.send({ type: "retry", actor: "una", token });
    expect(h.open()).toEqual([]);
    expect(h.state.stuck).toMatchObject([{ step: "h", reason: { code: "nothing-back" } }]);
    // An owner lets it go on without: then there is nothing to be read.
    h.send({ type: "skip", actor: "eithne", token, way: null, note: "no use" });
    expect(h.state).toMatchObject({ status: "finished", data: { secret: null } });
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("is stuck with the request, and mended in place", () => {
    const lost = procedure([
      decideBy("look", { by: "group", group: "nobody" }, [ans("good", "agree")]),
      fin("pe", "x"),
    ]);
    const h = drive(caller(handTo("h")), { check: [lost] });
    h.start(START);
    expect(h.state).toMatchObject({ status: "stuck", stuck: [{ step: "h", reason: { code: "nobody" } }] });
    const call = Object.values(h.state.calls)[0]!;
    const inner = `${call.id}~${call.state.stuck[0]!.token}`;
    expect(h.send({ type: "retry", actor: "eithne", token: h.state.stuck[0]!.token })).toMatchObject({
      refusal: { code: "not-stuck" },
    });
    h.send({ type: "name", actor: "eithne", token: inner, to: "declan", note: "away" });
    expect(h.state).toMatchObject({ status: "under way", stuck: [] });
    h.answer("declan", "good");
    expect(h.state.status).toBe("finished");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("ends with the request that waits for it: nothing stays open", () => {
    const together: Step = {
      id: "t",
      name: "Both",
      kind: "together",
      branches: [
        { id: "a", name: "A", steps: [handTo("h")] },
        { id: "b", name: "B", steps: [look("direct", "declan")] },
      ],
    } as Step;
    for (const end of ["withdraw", "decline"] as const) {
      const h = drive(caller(together));
      h.start(START);
      expect(h.asked()).toEqual(["carmel", "declan"]);
      if (end === "withdraw") h.send({ type: "withdraw", actor: "una", note: "" });
      else h.answer("declan", "bad");
      expect(h.open()).toEqual([]);
      expect(
        allTasks(h.state)
          .map((t) => t.status)
          .sort(),
      ).toEqual(end === "withdraw" ? ["closed", "closed"] : ["answered", "closed"]);
      expect(h.answer("carmel", "good")).toMatchObject({ ok: false });
      expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
    }
  });

  it("may hand to another, and to itself so deep and no deeper", () => {
    const outer = procedure(
      [handTo("in", { values: [{ port: "subject", value: "Subject" }] }), fin("oe", "out")],
      {
        key: "outer",
        fields: [FIELDS[0]!],
      },
    );
    const h = drive(caller(handTo("h", { values: [{ port: "subject", value: "Reason" }] }, outer)), {
      check: [CHECK],
      outer: [outer],
    });
    h.start(START);
    expect(h.open()[0]).toMatchObject({ step: "h~in~look" });
    h.answer("carmel", "good");
    expect(h.state.status).toBe("finished");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);

    const self = procedure([], { key: "self", fields: [FIELDS[0]!] });
    const again = handTo("again", { values: [{ port: "subject", value: "Subject" }] }, self);
    const first = handTo("h", { values: [{ port: "subject", value: "Reason" }] }, self);
    const circle = drive(caller(first), { self: [{ ...self, route: [again] }] });
    circle.start(START);
    expect(circle.state.stuck).toMatchObject([{ reason: { code: "too-deep", data: { limit: 20 } } }]);
  });

  it("in a circle that asks nobody is found as one without it would be", () => {
    const plain = procedure([word, fin("pe", "x")]);
    const back: Step = { id: "j", name: "Back", kind: "jump", to: "h" } as Step;
    const h = drive(definitionOf([handTo("h"), back]), { check: [plain] });
    h.start(START);
    expect(h.state.stuck).toMatchObject([{ reason: { code: "runaway" } }]);
    // 2,000 moves, those within the procedure counted: not as many rounds of it.
    expect(h.events.filter((e) => e.type === "call opened").length).toBeLessThan(700);
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });
});

describe("line items", () => {
  const rows = (hand: Field["hand"]): Field => ({
    id: "rows",
    name: "Rows",
    kind: "lines",
    ...(hand ? { hand } : {}),
    fields: [
      { id: "what", name: "What", kind: "text" },
      { id: "price", name: "Price", kind: "money" },
      { id: "twice", name: "Twice", kind: "money", worked: "Price * 2" },
    ],
  });
  const LINED = procedure([look(), fin("pe", "fine")], { fields: [rows("in and out")] });
  const own: Field = { ...rows(undefined), id: "own", name: "Own" };
  const of = (value: string) => handTo("h", { values: [{ port: "rows", value }] }, LINED);
  const run = (value: string, data: object = {}) => {
    const said = 'string(count(Hand over.Rows)) + " " + string(sum(Hand over.Rows.Twice))';
    const tell: Step = { id: "n", name: "Note", kind: "work out", set: [{ field: "secret", value: said }] };
    const d = definitionOf([of(value), tell, fin("e", "done")], {
      fields: [
        { id: "total", name: "Total", kind: "money" },
        { id: "secret", name: "Secret", kind: "text" },
        own,
      ],
    });
    const h = drive(d, { check: [LINED] });
    h.start({ total: "5", ...data } as never);
    return { h, d };
  };

  it("are handed over and back, from rows of one's own or a list that is made", () => {
    const mine = [
      { "#": "x", what: "Rope", price: "3", twice: null },
      { "#": "y", what: "Sail", price: "4", twice: null },
    ];
    const { h, d } = run("Own[Price > 1]", { own: mine });
    expect(Object.values(h.state.calls)[0]!.state.data["rows"]).toMatchObject([
      { "#": "1", what: "Rope", price: "3" },
      { "#": "2", what: "Sail", price: "4" },
    ]);
    h.answer("carmel", "good");
    expect(h.state.data["secret"]).toBe("2 14");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
    const known = { kinds: KINDS, registers: {} };
    expect(problemsOf(d, known).filter((p) => p.severity === "error")).toEqual([]);
    const made = run("for i in 1..3 return {What: string(i), Price: i * Total, Other: 1}").h;
    made.answer("carmel", "good");
    expect(made.state.data["secret"]).toBe("3 60");
    const none = run("null").h;
    expect(Object.values(none.state.calls)[0]!.state.data["rows"]).toEqual([]);
    const single = run('{What: "one"}').h;
    expect(Object.values(single.state.calls)[0]!.state.data["rows"]).toHaveLength(1);
  });

  it("that do not fit stop the request, and say which row", () => {
    const why = (value: string) => JSON.stringify(run(value).h.state.stuck[0]?.reason);
    expect(why("[1, 2]")).toContain("row 1 is none");
    expect(why('[{Price: 1}, {Price: "x"}]')).toContain("Row 2 of");
    expect(why("for i in 1..6000 return {Price: i}")).toContain("5000 rows");
  });

  it("are known by their columns: other names or kinds break those who hand over", () => {
    const before = portsOf([rows("in and out")]);
    expect(before.takes[0]!.columns!.map((c) => c.name)).toEqual(["What", "Price"]);
    expect(before.gives[0]!.columns!.map((c) => c.name)).toEqual(["What", "Price", "Twice"]);
    const given = new Set(["rows"]);
    const changed = (change: (c: Field) => Field[]) => {
      const lines = rows("in and out");
      return broken(before, given, portsOf([{ ...lines, fields: lines.fields!.flatMap(change) }]));
    };
    expect(changed((c) => [c])).toEqual([]);
    expect(changed((c) => (c.id === "what" ? [{ ...c, name: "Which" }] : [c]))).toHaveLength(2);
    expect(changed((c) => (c.id === "twice" ? [] : [c]))).toHaveLength(1);
    expect(changed((c) => [c, ...(c.id === "what" ? [{ ...c, id: "more", name: "More" }] : [])])).toEqual([]);
  });
});

describe("what is told and forgotten of a procedure", () => {
  it("people are told of its tasks, and whoever asked not twice that it ended", () => {
    const tell: Step = {
      id: "t",
      name: "T",
      kind: "tell",
      who: { by: "requester" },
      subject: "It is done",
      text: "",
      ways: [],
    };
    const h = drive(caller(handTo("h")), { check: [procedure([look(), tell, fin("pe", "fine")])] });
    const procedures = proceduresOf({ check: [procedure([look(), tell, fin("pe", "fine")])] });
    const release = compileRelease(caller(handTo("h")), {}, KINDS);
    h.start(START);
    const came = newsOf(release, NEW_REQUEST, h.state, h.events, procedures);
    expect(came).toMatchObject([
      { kind: "task came", to: "carmel", task: h.open()[0]!.id, facts: { step: "Look" } },
    ]);
    expect(h.events.find((e) => e.seq === came[0]!.seq)).toMatchObject({
      type: "in call",
      event: { type: "task opened" },
    });
    const [before, from] = [h.state, h.events.length];
    h.answer("carmel", "good");
    // The procedure told it itself.
    expect(newsOf(release, before, h.state, h.events.slice(from), procedures)).toEqual([]);
  });

  it("nothing that was handed in, kept inside or said there stays when it is forgotten", () => {
    const tell: Step = {
      id: "t",
      name: "T",
      kind: "tell",
      who: { by: "requester" },
      subject: "It is done",
      text: "They said: {Look.note}",
      ways: [],
    };
    const h = drive(caller(handTo("h"), note), {
      check: [procedure([word, look(), tell, fin("pe", "fine")])],
    });
    h.start({ total: "21", reason: "Ropes of Niamh" });
    h.answer("carmel", "good", "Niamh again");
    expect(JSON.stringify(h.events)).toContain("They said: Niamh again");
    const release = compileRelease(caller(handTo("h"), note), {}, KINDS);
    expect(JSON.stringify(h.events)).toContain("Niamh");
    const gone = { fields: new Set(["reason", "secret"]), inCalls: true, asker: true, notesOf: "carmel" };
    const left = forgetEvents(h.events, release, gone);
    expect(JSON.stringify(left)).not.toContain("Niamh");
    expect(replay(left, NEW_REQUEST)).toMatchObject({ status: "finished", data: { total: "21" } });
    // Only a note of somebody: the values stay.
    const notes = forgetEvents(h.events, release, {
      fields: new Set(),
      inCalls: false,
      asker: false,
      notesOf: "carmel",
    });
    expect(JSON.stringify(notes)).not.toContain("Niamh again");
    expect(replay(notes, NEW_REQUEST).data).toMatchObject({ reason: "Ropes of Niamh" });
  });
});

describe("a draft that hands over", () => {
  const ports = portsOf(CHECK.fields);
  const live = {
    check: { key: "check", name: "Check", version: "1.0.0", versions: ["1.0.0"], handsTo: [], ...ports },
  };
  const codes = (d: ProcessDefinition, procedures: object = live) =>
    problemsOf(d, { kinds: KINDS, registers: {}, procedures: procedures as typeof live }).map(
      (p) => `${p.severity} ${p.where.id} ${p.code}`,
    );

  it("is right, or says what is missing", () => {
    expect(codes(caller(handTo("h"), note))).toEqual([]);
    expect(codes(caller(handTo("h", { values: [] })))).toEqual(["error h not-given"]);
    expect(codes(caller(handTo("h", { procedure: "" })))).toContain("error h no-procedure");
    expect(codes(caller(handTo("h")), {})).toEqual(["error h not-live"]);
    expect(codes(caller(handTo("h", { values: [{ port: "subject", value: "Total" }] })))).toEqual([
      "error h wrong-type",
    ]);
  });

  it("is told what a procedure takes or gives otherwise by now", () => {
    const now = (fields: Field[]) => ({ check: { ...live.check, ...portsOf(fields) } });
    expect(codes(caller(handTo("h")), now(FIELDS.filter((f) => f.id !== "amount")))).toEqual([
      "error h other-ports",
    ]);
    expect(codes(caller(handTo("h")), now(FIELDS.filter((f) => f.id !== "word")))).toEqual([
      "error h other-ports",
    ]);
    const link: Field = { id: "link", name: "Link", kind: "look-up", register: "objects", hand: "in" };
    const linked = { ...CHECK, fields: [...FIELDS, link] };
    const hands = handTo(
      "h",
      {
        values: [
          { port: "subject", value: "Reason" },
          { port: "link", value: "null" },
        ],
      },
      linked,
    );
    expect(codes(caller(hands), now(linked.fields))).not.toContain("error h other-ports");
    expect(codes(caller(hands), now([...FIELDS, { ...link, register: "loans" }]))).toContain(
      "error h other-ports",
    );
    const more: Field = { id: "more", name: "More", kind: "text", hand: "in" };
    expect(codes(caller(handTo("h")), now([...FIELDS, more]))).toEqual(["warning h new-ports"]);
    expect(codes(caller(handTo("h")), now([...FIELDS, { ...more, needed: "true" }]))).toEqual([
      "error h other-ports",
    ]);
  });

  it("of a procedure says what cannot be in one", () => {
    expect(codes(CHECK)).toEqual([]);
    const back = { ...look(), answers: [ans("again", "plain", [], { returns: true }), ans("good", "agree")] };
    expect(codes(procedure([back as Step, fin("pe", "x")]))).toContain("error look returns-inside");
    const started = procedure([fin("pe", "x")], { starts: [KINDS.starts.form.blank("form")] });
    expect(codes(started)).toContain("error form start-inside");
    const around = { kinds: KINDS, registers: {} };
    const put = applyEdit(
      CHECK,
      { op: "process.replace", definition: { ...started, procedure: undefined } },
      around,
    );
    expect(put).toMatchObject({ ok: false, refusal: { code: "other-sort" } });
    const unused: Field[] = [
      { id: "u", name: "Unused", kind: "text", hand: "out", starting: '"x"' },
      { id: "v", name: "Own", kind: "text", starting: '"x"' },
      { id: "mistake", name: "Mistake", kind: "number", hand: "in", starting: '"x"' },
    ];
    expect(codes(procedure([fin("pe", "x")], { fields: [...FIELDS, ...unused] }))).toEqual(
      expect.arrayContaining([
        "error u starting-unused",
        "error v starting-unused",
        expect.stringContaining("error mistake") as string,
      ]),
    );
    const column: Field = { id: "c", name: "C", kind: "text", hand: "in" };
    const lines: Field = { id: "l", name: "Lines", kind: "lines", hand: "in", fields: [column] };
    expect(codes(procedure([fin("pe", "x")], { fields: [...FIELDS, lines] }))).toContain(
      "error c hand-column",
    );
    // A file that nobody hands on goes with the procedure; one of line items that are handed over does not.
    const file: Field = { id: "scan", name: "Scan", kind: "file" };
    const rows: Field = { ...lines, fields: [{ id: "paper", name: "Paper", kind: "file" }] };
    expect(codes(procedure([fin("pe", "x")], { fields: [...FIELDS, file, rows] }))).toEqual(
      expect.arrayContaining(["warning scan file-inside"]),
    );
    const handedOn = [{ ...file, hand: "out" as const }, rows];
    expect(codes(procedure([fin("pe", "x")], { fields: [...FIELDS, ...handedOn] })).join()).not.toContain(
      "file-inside",
    );
  });

  it("has a sample that goes through it", () => {
    const facts = { ...officeFacts(T0), procedures: proceduresOf({ check: [CHECK] }) };
    const release = compileRelease(caller(handTo("h"), note), {}, KINDS);
    const path = samplePath(release, "una", START, facts);
    expect(path).toMatchObject({ result: "done", stop: null, asked: {} });
    expect(path.steps).toEqual(["h", "h", "h~w", "h~look", "h~pe", "h~pe", "n", "e", "e"]);
  });
});

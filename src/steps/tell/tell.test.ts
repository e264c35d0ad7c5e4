import { compileRelease, decide, NEW_REQUEST, type Command, type Effect } from "@/core/engine";
import { officeFacts } from "@/core/engine/testOffice";
import { personParty, type Party } from "@/core/form";
import { receiversIn } from "@/core/kinds";
import { problemsOf } from "@/core/problems";
import type { ProcessDefinition, Step } from "@/core/route";
import { KINDS } from "@/kinds";

const mail = (more: object = {}, ways: object[] = []): Step =>
  ({
    id: "m",
    name: "Write",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number}",
    text: "About {Matter} and {Secret}",
    mail: {},
    ways,
    ...more,
  }) as Step;
const definition = (route: Step[], more: Partial<ProcessDefinition> = {}): ProcessDefinition => ({
  format: "cobble-step/process@2",
  key: "walls",
  name: "Walls",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "W", digits: 3 },
  title: "{Matter}",
  mailbox: "walls@quillhaven.example",
  starts: [{ id: "f", kind: "form", who: { by: "everybody" } }],
  fields: [
    { id: "matter", name: "Matter", kind: "text" },
    { id: "secret", name: "Secret", kind: "text" },
    { id: "count", name: "Count", kind: "number" },
    { id: "helper", name: "Helper", kind: "person" },
    { id: "plan", name: "Plan", kind: "file" },
  ],
  access: {},
  route,
  samples: [],
  ...more,
});
const OTHERS = new Set(["no-finish", "read-before-set", "may-find-nobody"]);
const codes = (d: ProcessDefinition) =>
  problemsOf(d, { kinds: KINDS, registers: {} }).flatMap((p) =>
    p.where.kind === "step" && !OTHERS.has(p.code) ? [`${p.severity} ${p.code}`] : [],
  );
function effectsOf(d: ProcessDefinition, requester: Party = personParty("una"), data: object = {}): Effect[] {
  const release = compileRelease(d, {}, KINDS);
  const command = { type: "start" as const, actor: "una", requester, number: "W-001", data: data as never };
  const done = decide(release, NEW_REQUEST, command, officeFacts(Date.UTC(2026, 2, 3, 10)));
  if (!done.ok) throw new Error(JSON.stringify(done.refusal));
  return done.effects;
}

it("goes to people as people, to whoever asked from outside by their address, and to each once", () => {
  const ada = { kind: "outside" as const, name: "Ada", email: "ada@x.example", through: null };
  const to = '["Ada@X.example", "b@x.example", Helper, Helper]';
  const [sent] = effectsOf(definition([mail({ mail: { to } })]), ada, { helper: "carmel" });
  expect(sent).toMatchObject({
    people: [],
    mail: {
      to: [{ name: "Ada", email: "ada@x.example" }, { name: "", email: "b@x.example" }, { person: "carmel" }],
      copy: [],
      blind: [],
      files: [],
    },
  });
  // By a notice nobody outside is told.
  const { mail: _, ...notice } = mail() as Step & { mail?: unknown };
  expect(effectsOf(definition([notice as Step]), ada)).toEqual([]);
});

it("goes in chat to each of those told, or to one room; and by the ways people have chosen beside a notice", () => {
  const say = (more: object): Step => ({ ...mail(), mail: undefined, ...more }) as Step;
  const helped = { who: { by: "formula", formula: "Helper" } };
  const hides = [{ ...KINDS.steps.decide.blank("d"), limit: undefined } as Step];
  const sent = (more: object, d: Partial<ProcessDefinition> = {}) =>
    effectsOf(definition([say({ ...helped, ...more }), ...hides], d), undefined, { helper: "carmel" })[0];
  expect(sent({ chat: {} })).toMatchObject({ people: [], chat: { people: ["carmel"] } });
  expect(sent({ chat: { room: '"yard"' } })).toMatchObject({
    people: [],
    chat: { people: [], room: "yard" },
  });
  // A room that is not named is no room: nobody is left out.
  expect(sent({ chat: { room: "Matter" } })).toMatchObject({ chat: { people: ["carmel"] } });
  expect(sent({ own: true })).toMatchObject({ people: ["carmel"], own: true });
  expect(sent({})).not.toHaveProperty("own");
  expect(sent({ chat: {} })).not.toHaveProperty("chat.hidden");
  expect(sent({ chat: {} }, { access: { d: { secret: "hide" } } })).toHaveProperty("chat.hidden", true);
});

it("what is forgotten of it is what it said", () => {
  const { forget } = KINDS.steps.tell;
  const work = { kind: "tell" as const, people: [], subject: "s", text: "t", chat: { people: ["carmel"] } };
  expect(forget!.work(work)).toEqual({ ...work, subject: "", text: "" });
});

it("goes to nobody where there is nobody, and asks nothing of anybody then", () => {
  expect(effectsOf(definition([mail({ who: { by: "formula", formula: "Matter" } })]))).toEqual([]);
});

it("is marked where it tells of what is hidden from somebody", () => {
  const hidden = (d: ProcessDefinition) => {
    const [e] = effectsOf(d);
    return e?.kind === "tell" ? e.mail?.hidden : undefined;
  };
  const decides = { ...KINDS.steps.decide.blank("d"), limit: undefined } as Step;
  expect(hidden(definition([mail(), decides]))).toBeUndefined();
  expect(hidden(definition([mail(), decides], { access: { d: { secret: "hide" } } }))).toBe(true);
  expect(
    hidden(definition([mail({ text: "x" }), decides], { access: { d: { secret: "hide" } } })),
  ).toBeUndefined();
});

it("says what is wrong: no mailbox, no address, no file, and a way that is never gone", () => {
  expect(codes(definition([mail()]))).toEqual([]);
  expect(codes(definition([mail()], { mailbox: undefined }))).toEqual(["error no-mailbox"]);
  // Whoever hands to a procedure has one.
  expect(codes(definition([mail()], { mailbox: undefined, procedure: true, starts: [] }))).toEqual([]);
  expect(codes(definition([mail({ mail: { copy: "Count" } })]))).toEqual(["error no-address"]);
  expect(codes(definition([mail({ who: { by: "formula", formula: "Count" } })]))).toEqual([
    "error no-address",
  ]);
  expect(codes(definition([mail({ mail: { files: "Matter" } })]))).toEqual(["error no-file"]);
  expect(codes(definition([mail({ mail: { files: "Plan", to: "Helper", replyTo: "Matter" } })]))).toEqual([]);
  const way = [{ id: "w", steps: [] }];
  expect(codes(definition([mail({ mail: undefined }, way)]))).toEqual(["warning never-returned"]);
  expect(codes(definition([mail({ mail: undefined, chat: {} }, way)]))).toEqual([]);
  expect(codes(definition([mail({ chat: {} })]))).toEqual(["error told-twice"]);
  expect(codes(definition([mail({ mail: undefined, chat: { room: "Count" } })]))).toEqual([
    "error wrong-type",
  ]);
  const office = {
    people: [],
    groups: {},
    duties: {},
    calendars: [],
    mailboxes: ["walls@quillhaven.example"],
  };
  const lacks = (o: object) =>
    problemsOf(definition([mail({ mail: undefined, chat: {} })]), {
      kinds: KINDS,
      registers: {},
      office: { ...office, ...o },
    }).some((p) => p.code === "no-chat");
  expect([lacks({}), lacks({ chat: "Yard" })]).toEqual([true, false]);
});

it("reads whom a value means; nothing is nobody, and what is no address stays to be told", () => {
  expect(receiversIn(null)).toEqual([]);
  expect(receiversIn("  ")).toEqual([]);
  expect(receiversIn(["a@x.example", null, "not one"])).toEqual([
    { name: "", email: "a@x.example" },
    { name: "", email: "not one" },
  ]);
  expect(receiversIn(true)).toEqual([]);
});

it("what is answered is read by its name, by a wait for it too, and only what was answered since", () => {
  const asks = mail({ id: "ask", name: "Ask them", mail: { to: '"ada@x.example"', replies: true } });
  const wait = {
    ...KINDS.steps.wait.blank("w"),
    name: "Their answer",
    for: [{ id: "a", holds: 'contains(Ask them.reply, "yes")' }],
  } as Step;
  const keeps = {
    ...KINDS.steps["work out"].blank("k"),
    name: "Keep it",
    set: [
      { field: "matter", value: 'Ask them.reply + " by " + Ask them.by' },
      { field: "plan", value: "Ask them.files[1]" },
    ],
  } as Step;
  const decides = { ...KINDS.steps.decide.blank("d"), limit: undefined } as Step;
  const d = definition([asks, wait, keeps, decides]);
  expect(
    problemsOf(d, { kinds: KINDS, registers: {} }).filter(
      (p) => p.severity === "error" && p.where.kind === "step",
    ),
  ).toEqual([]);
  const release = compileRelease(d, {}, KINDS);
  const facts = officeFacts(Date.UTC(2026, 2, 3, 10), {
    files: { f1: { id: "f1", name: "plan.pdf", size: 1, type: "application/pdf", at: 0 } },
  } as never);
  let state = NEW_REQUEST;
  const apply = (command: Command) => {
    const done = decide(release, state, command, facts);
    if (!done.ok) throw new Error(JSON.stringify(done.refusal));
    state = done.state;
    return done;
  };
  const [sent] = apply({
    type: "start",
    actor: "una",
    requester: personParty("una"),
    number: "W-001",
    data: {},
  }).effects;
  const effect = { id: sent!.id, step: "ask", scope: null };
  const reply = { text: "let me think", by: "ada@x.example", vouched: true, files: [] };
  expect(Object.keys(state.sleeps)).toHaveLength(1);
  apply({ type: "replied", effect, reply });
  // It does not say what is waited for.
  expect(Object.keys(state.sleeps)).toHaveLength(1);
  apply({ type: "replied", effect, reply: { ...reply, text: "yes", files: ["f1"] } });
  expect(Object.keys(state.sleeps)).toHaveLength(0);
  expect(state.stuck).toEqual([]);
  expect(state.data).toMatchObject({ matter: "yes by ada@x.example", plan: "f1" });
  // To a step that does not read it, and to what is over, it means nothing.
  const before = state;
  apply({ type: "replied", effect: { ...effect, step: "d" }, reply });
  apply({ type: "replied", effect: { ...effect, scope: "gone" }, reply });
  expect(state).toEqual(before);
});

it("steps whose answers nobody reads may be called alike", () => {
  const reads = (more: object) =>
    definition([
      mail({ id: "a" }),
      mail({ id: "b", ...more }),
      mail({ id: "c", subject: "{Write.reply}", ...more }),
    ]);
  const twice = (d: ProcessDefinition) => codes(d).filter((c) => c === "error step-name-twice");
  expect(twice(reads({ mail: { replies: true } }))).toEqual(["error step-name-twice"]);
  expect(twice(definition([mail({ id: "a" }), mail({ id: "b" })]))).toEqual([]);
});

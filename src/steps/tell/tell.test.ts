import { compileRelease, decide, NEW_REQUEST, type Effect } from "@/core/engine";
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

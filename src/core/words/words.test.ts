import { personParty, type Party } from "../form";
import { KINDS } from "@/kinds";
import {
  compileRelease,
  decide,
  evolve,
  NEW_REQUEST,
  samplePath,
  type RequestEvent,
  type Refusal,
  type RequestState,
  type StuckReason,
} from "../engine";
import { OFFICE_HOURS, officeFacts } from "../engine/testOffice";
import { decideBy, definitionOf, fin, harness, YES_NO } from "../engine/testRequest";
import type { EditRefusal, ProcessDefinition, Step } from "../route";
import {
  editRefusalSentence,
  nextInWords,
  pathOf,
  refusalSentence,
  stuckSentence,
  timeLeft,
  trailLine,
} from ".";

const T0 = Date.UTC(2026, 2, 3, 10, 0);
const H = 3_600_000;
const definition: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "t",
  name: "Key",
  purpose: "",
  owners: ["una"],
  numbering: { prefix: "KEY", digits: 4 },
  title: "",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  samples: [],
  access: { start: { tag: "hide" }, hand: { tag: "edit" } },
  fields: [
    { id: "total", name: "Total", kind: "money", needed: "true" },
    { id: "tag", name: "Tag", kind: "text", needed: "true" },
  ],
  route: [
    {
      id: "check",
      name: "Manager checks",
      kind: "decide",
      who: { rule: { by: "manager" }, how: "one" },
      limit: { otherwise: { amount: 2, unit: "working days" }, rungs: [] },
      answers: [
        { id: "yes", label: "Approve", tone: "agree", steps: [] },
        {
          id: "no",
          label: "Decline",
          tone: "refuse",
          note: "must",
          steps: [
            {
              id: "say",
              name: "Say so",
              kind: "tell",
              who: { by: "requester" },
              subject: "No",
              text: "",
              ways: [],
            },
            { id: "end1", name: "Finish", kind: "finish", result: "declined", tone: "refuse" },
          ],
        },
        { id: "back", label: "Return", tone: "plain", returns: true, steps: [] },
      ],
    },
    {
      id: "size",
      name: "By size",
      kind: "choose",
      ways: [
        { id: "small", name: "small", when: "Total < 500", steps: [] },
        { id: "large", name: "large", steps: [{ id: "again", name: "Again", kind: "jump", to: "check" }] },
      ],
    },
    {
      id: "hand",
      name: "Hand over",
      kind: "complete",
      who: { rule: { by: "person", person: "carmel" }, how: "one" },
      button: "Handed over",
    },
    { id: "end", name: "Finish", kind: "finish", result: "done", tone: "agree" },
  ],
};
const release = compileRelease(definition, {}, KINDS);
function through(...answers: [string, string, string, object?][]): {
  state: RequestState;
  events: RequestEvent[];
} {
  const events: RequestEvent[] = [];
  let state = NEW_REQUEST;
  const send = (c: Parameters<typeof decide>[2]) => {
    const d = decide(release, state, c, officeFacts(T0));
    if (!d.ok) throw new Error(JSON.stringify(d.refusal));
    events.push(...d.events);
    state = d.state;
  };
  send({
    type: "start",
    actor: "una",
    requester: personParty("una"),
    number: "KEY-0001",
    data: { total: "120" },
  });
  for (const [actor, answer, note, data] of answers)
    send({
      type: "answer",
      actor,
      task: Object.values(state.tasks).find((t) => t.status === "open")!.id,
      answer,
      note,
      data: (data ?? {}) as never,
    });
  return { state, events };
}
const names = {
  person: (id: string) => id.toUpperCase(),
  step: (id: string) => release.places.get(id)?.step.name ?? id,
  time: () => "Thursday",
  task: () => null,
  mends: true,
  namesRecords: () => true,
  inCall: () => null,
};
const trail = (events: RequestEvent[]) => events.flatMap((e) => trailLine(e, names, KINDS)?.text ?? []);

it("the trail tells who was asked until when, what was answered, and the end", () => {
  expect(trail(through(["brendan", "yes", ""], ["carmel", "done", "", { tag: "K-1" }]).events)).toEqual([
    "made the request",
    "Manager checks: BRENDAN is asked, until Thursday",
    "answered: Approve",
    "By size: small",
    "Hand over: CARMEL is asked",
    "changed a value in the form",
    "answered: Handed over",
    "Finished: done",
  ]);
  const back = trail(through(["brendan", "back", "Which?"], ["una", "sent", ""]).events);
  expect(back).toContain("Manager checks: sent back for changes");
  expect(back).toContain("UNA is asked for changes");
  expect(back).toContain("Manager checks: starts again with the changes");
});

it("the path shows each arrival, where it is, and what came of it", () => {
  const mid = through(["brendan", "yes", ""]);
  expect(
    pathOf(release, mid.state, mid.events).map((s) => `${s.number} ${s.name} ${s.state} ${s.outcome}`.trim()),
  ).toEqual([
    "1 Request made done",
    "2 Manager checks done Approve",
    "3 By size done small",
    "4 Hand over here",
  ]);
  const end = through(["brendan", "no", "because"]);
  expect(pathOf(release, end.state, end.events).at(-1)).toMatchObject({
    number: "2b.2",
    outcome: "declined",
    state: "done",
  });
});

it("names what each of several has said, while they decide and afterwards", () => {
  const registry = { by: "group", group: "registry" } as const;
  const step = { ...decideBy("check", registry, YES_NO("1")), who: { rule: registry, how: "all" } } as Step;
  const d = definitionOf([step, fin("end", "approved")]);
  const h = harness(d);
  h.start();
  const said = () => pathOf(compileRelease(d, {}, KINDS), h.state, h.events).map((s) => s.said);
  expect(said()).toEqual([[], []]);
  h.answer("declan", "approve");
  expect(said()).toEqual([[], [{ by: "declan", answer: "approve" }]]);
  h.answer("carmel", "decline", "no");
  expect(said().slice(0, 2)).toEqual([
    [],
    [
      { by: "declan", answer: "approve" },
      { by: "carmel", answer: "decline" },
    ],
  ]);
});

it("says what each answer leads to, past steps at which nobody waits", () => {
  expect(nextInWords(release, "check")).toEqual([
    { answer: "Approve", then: "then Hand over (small) or Manager checks again (large)" },
    { answer: "Decline", then: "then it ends as “declined”" },
    { answer: "Return", then: "goes back to the requester for changes" },
  ]);
  const back = (asker: Party) => nextInWords(release, "check", asker)[2]!.then;
  expect(back(personParty("una"))).toBe("goes back to the requester for changes");
  // Nobody who does not work here can be asked for anything.
  const ada: Party = { kind: "outside", name: "Ada", email: "", through: null };
  expect(back(ada)).toBe("stops until an owner of the process says who makes the changes");
  expect(nextInWords(release, "hand")).toEqual([{ answer: "Handed over", then: "then it ends as “done”" }]);
  expect(nextInWords(release, "nothing")).toEqual([]);
});

it("a sample is followed to its end, fields filled in on the way waived; a circle stops it", () => {
  const path = samplePath(release, "una", { total: "120" }, officeFacts(T0));
  expect(path).toMatchObject({
    result: "done",
    stop: null,
    lists: expect.arrayContaining(["check/yes", "size/small"]),
  });
  expect(path.asked["check"]).toEqual({ people: ["brendan"], due: T0 + 48 * H });
  expect(path.steps.at(-1)).toMatch(/^end|^fin/);
  expect(samplePath(release, "una", { total: "" }, officeFacts(T0))).toMatchObject({
    stop: "form",
    steps: [],
  });
  expect(samplePath(release, "una", { total: "900" }, officeFacts(T0)).result).toBeNull();
});

it.each([
  [T0, T0 + 26 * H, "1 working day, 2 h left", "calm"],
  [T0, T0 + 2 * H, "2 working h left", "soon"],
  [T0, T0 + 20 * 60_000, "20 min left", "soon"],
  [T0, T0 - 3 * H, "1 working h over", "late"],
  [T0, T0 + 24 * H * 6, "4 working days left", "calm"],
])("time left from %p to %p reads %p", (now, due, text, tone) =>
  expect(timeLeft(OFFICE_HOURS, now, due)).toEqual({ text, tone }),
);

describe("every expected failure has a sentence that names what it is about", () => {
  const refusals: Refusal[] = [
    {
      code: "form",
      data: {
        problems: [
          { code: "needed", path: "a", data: { field: "Total" } },
          { code: "check", path: "b", data: { field: "Until", say: "Too late." } },
        ],
      },
    },
    { code: "unknown-task", data: { task: "t1" } },
    { code: "already-answered", data: { by: "una", answer: "yes", at: 1 } },
    { code: "already-answered", data: { by: null, answer: null, at: null } },
    { code: "taken-by-other", data: { by: "una" } },
    { code: "not-yours", data: { task: "t" } },
    { code: "unknown-answer", data: { answer: "x", answers: ["a"] } },
    { code: "note-needed", data: { answer: "Decline" } },
    { code: "not-shared", data: { task: "t" } },
    { code: "same-person", data: { person: "una" } },
    { code: "own-request", data: { person: "una" } },
    { code: "ended", data: { status: "finished" } },
    { code: "not-requester", data: { requester: personParty("una") } },
    { code: "already-started", data: { number: "KEY-1" } },
    { code: "not-stuck", data: { token: "k" } },
  ];
  it.each(refusals.map((r) => [r.code, r] as const))("%s", (_, r) =>
    expect(refusalSentence(r, (id) => id.toUpperCase())).toMatch(/^[A-Z"“0-9].{15,}\.$/),
  );
  const reasons: StuckReason[] = [
    { code: "nobody", data: { step: "Check", rule: "Director" } },
    { code: "no-way", data: { step: "Check" } },
    { code: "runaway", data: { step: "Check", limit: 9 } },
    { code: "must-not", data: { step: "Check", record: "Key", condition: "x" } },
    { code: "no-record", data: { step: "Check", formula: "Store" } },
    { code: "write-refused", data: { step: "Check", message: "no." } },
    { code: "bad-jump", data: { step: "Check", to: "x" } },
  ];
  it.each(reasons.map((r) => [r.code, r] as const))("%s", (_, r) =>
    expect(stuckSentence(r, KINDS)).toContain("Check"),
  );
  const edits: EditRefusal[] = [
    { code: "unknown-field", data: { id: "x" } },
    { code: "unknown-step", data: { id: "x" } },
    { code: "unknown-list", data: { id: "x" } },
    { code: "unknown-sample", data: { id: "x" } },
    { code: "duplicate-id", data: { id: "x" } },
    { code: "into-itself", data: { id: "x" } },
    { code: "least-lists", data: { one: "round", least: 1 } },
    { code: "bad-name", data: { name: "a-b", why: "A name may not." } },
    { code: "name-taken", data: { name: "Total" } },
  ];
  it.each(edits.map((r) => [r.code, r] as const))("%s", (_, r) =>
    expect(editRefusalSentence(r)).toMatch(/\.$/),
  );
});

it("an event about something unknown changes nothing but the number", () => {
  const { state } = through();
  const next = evolve(state, { type: "task taken", task: "t99", seq: 99, at: T0, by: "una" });
  expect({ ...next, seq: state.seq }).toEqual(state);
});

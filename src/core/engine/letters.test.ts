import type { Letter, LetterPart } from "../letter";
import { problemsOf } from "../problems";
import type { ProcessDefinition, Step } from "../route";
import { KINDS } from "@/kinds";
import { ans, definitionOf, harness, T0 } from "./testRequest";
import { compileRelease, forgetEvents, NEW_REQUEST, replay } from ".";

const letter = (parts: LetterPart[], more: Partial<Letter> = {}): Letter => ({
  id: "l",
  name: "Letter",
  texts: [{ language: "en", subject: "{Request.number}", parts }],
  ...more,
});
const value = (formula: string): LetterPart => ({ part: "paragraph", runs: [{ value: formula }] });
const decides = (more: object): Step =>
  ({
    id: "d",
    name: "Decide",
    kind: "decide",
    who: { rule: { by: "person", person: "carmel" }, how: "one" },
    answers: [ans("ok", "agree", [])],
    ...more,
  }) as Step;
const sends = (more: object = {}): Step =>
  ({
    ...KINDS.steps.tell.blank("t"),
    name: "Send",
    who: { by: "requester" },
    mail: {},
    letter: "l",
    ...more,
  }) as Step;
const definition = (route: Step[], letters: Letter[], more: Partial<ProcessDefinition> = {}) =>
  definitionOf(route, { mailbox: "x@quillhaven.example", letters, ...more });
const HIDDEN = { access: { d: { secret: "hide" as const } } };

it("whoever is asked gets the letter as it came to then, marked where it tells of what is hidden", () => {
  const asks = decides({ byMail: { subject: "", text: "", letter: "l" } });
  const h = harness(definition([asks], [letter([value("Secret")])], HIDDEN));
  h.start({ total: "1", secret: "x" });
  const [visit] = Object.values(h.state.visits);
  expect(visit?.letter).toEqual({
    subject: "TEST-0001",
    text: "x",
    letter: { language: "en", parts: [{ part: "paragraph", runs: [{ text: "x" }] }] },
    hidden: true,
  });
  const open = harness(definition([asks], [letter([value("Reason")])], HIDDEN));
  open.start({ total: "1", reason: "y" });
  expect(Object.values(open.state.visits)[0]?.letter?.hidden).toBeUndefined();
});

it("a rung sends a letter by mail in the place of its notice; one that cannot be written tells nobody, and why", () => {
  const rung = (id: string, action: object) => ({
    id,
    when: "at" as const,
    action: { do: "tell", who: { by: "requester" }, text: "It waits.", ...action },
  });
  const route = (action: object) => [
    decides({ limit: { otherwise: { amount: 1, unit: "hours" }, rungs: [rung("r", action)] } }),
  ];
  const fired = (parts: LetterPart[], action: object) => {
    const h = harness(definition(route(action), [letter(parts)], HIDDEN));
    h.start({ total: "1", secret: "x" });
    const [timer] = Object.keys(h.state.timers);
    h.at(T0 + 3_600_000);
    const done = h.send({ type: "time reached", timer: timer! });
    if (!done.ok) throw new Error(JSON.stringify(done.refusal));
    return done;
  };
  const [sent] = fired([value("Secret")], { letter: "l" }).effects;
  expect(sent).toMatchObject({
    kind: "tell",
    people: [],
    subject: "TEST-0001",
    text: "x",
    mail: { to: [{ person: "una" }], hidden: true, letter: { language: "en" } },
  });
  const [open] = fired([value("Reason")], { letter: "l" }).effects;
  expect(open).not.toHaveProperty("mail.hidden");
  const [notice] = fired([], {}).effects;
  expect(notice).toMatchObject({ people: ["una"], text: "It waits." });
  expect(notice).not.toHaveProperty("mail");
  const bad = fired([{ part: "when", when: 'number("x" + Secret) > 1', parts: [] }], { letter: "l" });
  expect(bad.effects).toEqual([]);
  expect(bad.events).toContainEqual(
    expect.objectContaining({
      type: "rung fired",
      found: false,
      unclear: expect.objectContaining({ code: "unclear" }),
    }),
  );
});

it("what is forgotten of a request goes out of its letters, too, and who they went to stays", () => {
  const d = definition(
    [sends(), decides({ byMail: { subject: "", text: "", letter: "l" } })],
    [letter([value("Secret")])],
  );
  const h = harness(d);
  h.start({ total: "1", secret: "quite private" });
  h.answer("carmel", "ok");
  expect(JSON.stringify(h.events)).toContain("quite private");
  const left = forgetEvents(h.events, compileRelease(d, {}, KINDS), {
    fields: new Set(["secret"]),
    inCalls: false,
    asker: false,
    notesOf: null,
  });
  expect(JSON.stringify(left)).not.toContain("quite private");
  expect(JSON.stringify(replay(left, NEW_REQUEST))).not.toContain("quite private");
  expect(JSON.stringify(left)).toContain('"to":[{"person":"una"}]');
});

it("a letter sent again waits for its own answer, and one that has ended hears of none", () => {
  const asks = sends({ name: "Ask", mail: { replies: true } });
  const wait = { ...KINDS.steps.wait.blank("w"), for: [{ id: "a", holds: "Ask.reply != null" }] } as Step;
  const back = { ...KINDS.steps.jump.blank("j"), to: "t" } as Step;
  const again = decides({ answers: [ans("again", "plain", [back]), ans("ok", "agree", [])] });
  const h = harness(definition([asks, wait, again], [letter([value("Reason")])]));
  h.start();
  const replied = () =>
    h.send({
      type: "replied",
      effect: { id: "e", step: "t", scope: null },
      reply: { text: "yes", by: "a@x.example", vouched: false, files: [] },
    });
  expect(Object.keys(h.state.sleeps)).toHaveLength(1);
  replied();
  expect(h.asked()).toEqual(["carmel"]);
  h.answer("carmel", "again");
  expect(Object.keys(h.state.sleeps)).toHaveLength(1);
  replied();
  h.answer("carmel", "ok");
  expect(h.state.status).toBe("finished");
  const { seq } = h.state;
  expect(replied().ok).toBe(true);
  expect(h.state.seq).toBe(seq);
});

it("a letter that may be sent by hand, or closes others, reads nothing of a round", () => {
  const each = {
    ...KINDS.steps["for each"].blank("fe"),
    over: { list: "[1, 2]" },
    item: "Thing",
    bodies: [{ id: "b", steps: [sends()] }],
  } as unknown as Step;
  const wrong = (more: Partial<Letter>, others: Letter[] = []) =>
    problemsOf(definition([each], [letter([value("Thing")], more), ...others]), {
      kinds: KINDS,
      registers: {},
    }).filter((p) => p.where.kind === "letter" && p.severity === "error");
  expect(wrong({})).toEqual([]);
  expect(wrong({ byHand: true })).toHaveLength(1);
  const signs = letter([value("Thing")], { id: "s", name: "Signs", closes: true });
  expect(wrong({ closing: "s" }, [signs]).map((p) => p.where.id)).toEqual(["s"]);
});

it("says where a letter tells its reader what is hidden from them, in conditions and rows too", () => {
  const told = (parts: LetterPart[], who: object = { by: "requester" }) =>
    problemsOf(definition([sends({ who })], [letter(parts)], { access: { start: { secret: "hide" } } }), {
      kinds: KINDS,
      registers: {},
    }).flatMap((p) => (p.code === "hidden-in-text" ? [p.where.id] : []));
  expect(told([value("Secret")])).toEqual(["l"]);
  expect(told([{ part: "when", when: 'Secret = "x"', parts: [value("Reason")] }])).toEqual(["l"]);
  expect(told([value("Reason")])).toEqual([]);
  // Of anybody else it is not known what they may see.
  expect(told([value("Secret")], { by: "person", person: "carmel" })).toEqual([]);
});

it("reads a name as it was checked, whatever a round it is sent from calls by the same", () => {
  const each = (id: string, steps: Step[], item = "Reason") =>
    ({
      ...KINDS.steps["for each"].blank(id),
      name: id,
      over: { list: '["of the round"]' },
      item,
      bodies: [{ id: `${id}-b`, steps }],
    }) as unknown as Step;
  const texts = (route: Step[], more: Partial<Letter> = {}) => {
    const h = harness(definition([...route, decides({})], [letter([value("Reason")], more)]));
    const done = h.start({ total: "1", reason: "of the form" });
    if (!done.ok) throw new Error(JSON.stringify(done.refusal));
    return done.effects.flatMap((e) => (e.kind === "tell" ? [e.text] : []));
  };
  expect(texts([each("a", [sends()])])).toEqual(["of the round"]);
  expect(texts([each("a", [sends()])], { byHand: true })).toEqual(["of the form"]);
  expect(texts([each("a", [sends()]), sends({ id: "t2" })])).toEqual(["of the form", "of the form"]);
  // From a round of a round and from the one around it: as the one around it knows it.
  const inner = each("in", [sends()]);
  expect(texts([each("out", [inner], "Other")])).toEqual(["of the round"]);
  expect(texts([each("out", [inner, sends({ id: "t2" })], "Other")])).toEqual(["of the form", "of the form"]);
});

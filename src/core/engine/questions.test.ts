import { KINDS } from "@/kinds";
import type { Limit, Rung, Step } from "../route";
import { refusalSentence, trailLine } from "../words";
import {
  answersOf,
  compileRelease,
  forgetEvents,
  formOf,
  partsChanged,
  newsOf,
  NEW_REQUEST,
  replay,
} from ".";
import { answersGiven } from "./answersGiven";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "./testRequest";

// It is Tuesday, 10:00 in Dublin; work goes on from 9 to 17 on weekdays.
const H = 3_600_000;
const CARMEL = { by: "person" as const, person: "carmel" };
const REGISTRY = { by: "group" as const, group: "registry" };
const answers = [
  ans("yes", "agree", [fin("end", "done")]),
  ans("no", "refuse", [fin("off", "refused", "refuse")]),
];
const USUAL = { amount: 2, unit: "working days" as const };

function asked(limit?: Partial<Limit>, more: Partial<Step> = {}, away: Record<string, string> = {}) {
  const l = limit && { limit: { otherwise: USUAL, rungs: [], ...limit } };
  const step = { ...decideBy("check", CARMEL, answers, l), ...more } as Step;
  const definition = definitionOf([step]);
  const h = harness(definition, away);
  h.start();
  const own = h.open()[0]!.id;
  const ask = (to: string | null, note = "Which?", actor = "carmel", task = own) =>
    h.send({ type: "ask", actor, task, to, note });
  const question = () => h.open().find((t) => t.question)!;
  const say = (actor: string, note = "The second.") =>
    h.send({ type: "answer", actor, task: question().id, answer: "said", note, data: {} });
  const visit = () => Object.values(h.state.visits).find((v) => v.purpose === "decide");
  return { h, own, ask, question, say, visit, definition };
}
const code = (d: { ok: boolean; refusal?: { code: string } }) => (d.ok ? null : d.refusal!.code);

describe("a question beside a task", () => {
  it("goes to whoever made the request, who sees the form as they sent it, and leaves the task where it is", () => {
    const { h, own, ask, question, say } = asked();
    expect(ask(null).ok).toBe(true);
    const q = question();
    expect(q).toMatchObject({ purpose: "question", holder: "una", due: null });
    expect(q.question).toMatchObject({ of: own, by: "carmel", text: "Which?" });
    expect(formOf(q)).toBe("start");
    expect(h.state.tasks[own]).toMatchObject({ status: "open", holder: "carmel" });
    expect(say("una").ok).toBe(true);
    expect(h.state.tasks[q.id]).toMatchObject({ status: "answered", note: "The second.", by: "una" });
    expect(h.state.tasks[own]!.status).toBe("open");
    expect(h.state.outcomes).toEqual({});
    expect(Object.keys(h.state.visits)).toHaveLength(1);
    h.answer("carmel", "yes");
    expect(h.state.result?.name).toBe("done");
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("goes to somebody outside where they are written to, by the account that is theirs, and else to nobody", () => {
    const through = "visitor.0123";
    const from = (follows?: "letters" | "page") => {
      const h = harness(definitionOf([decideBy("check", CARMEL, answers)]));
      const outside = { kind: "outside" as const, name: "Ada", email: "ada@byrne.example", through };
      const requester = { ...outside, ...(follows ? { follows } : {}) };
      h.send({ type: "start", actor: through, requester, number: "TEST-0001", data: { total: "1" } });
      const [own] = h.open();
      return { h, d: h.send({ type: "ask", actor: "carmel", task: own!.id, to: null, note: "Which?" }) };
    };
    expect([from(), from("page")].map(({ d }) => code(d))).toEqual(["asker-outside", "asker-outside"]);
    const { h, d } = from("letters");
    expect(code(d)).toBeNull();
    const q = h.open().find((t) => t.question)!;
    expect([q.purpose, q.holder, formOf(q)]).toEqual(["question", through, "start"]);
    // It stays, whoever else comes and goes.
    h.send({ type: "ask others" });
    expect(h.open().some((t) => t.id === q.id)).toBe(true);
    h.send({ type: "answer", actor: through, task: q.id, answer: "said", note: "The old one.", data: {} });
    expect(h.open().map((t) => t.step)).toEqual(["check"]);
    h.answer("carmel", "yes");
    expect(h.state.status).toBe("finished");
  });

  it("for advice goes to a colleague, who sees what the step shows, and no vote of theirs counts", () => {
    const { h, ask, question, say } = asked(undefined, {
      who: { rule: REGISTRY, how: "all" },
    } as Partial<Step>);
    const own = h.open().find((t) => t.holder === "carmel")!;
    expect(ask("brendan", "Well?", "carmel", own.id).ok).toBe(true);
    expect([question().purpose, formOf(question())]).toEqual(["advice", "check"]);
    say("brendan");
    expect(h.state.status).toBe("under way");
    expect(h.open().every((t) => t.step === "check" && !t.question)).toBe(true);
    expect(Object.values(h.state.visits)[0]!.asked).toBe(h.open().length);
  });

  it("to a colleague who made the request, or covers for one, is one to whoever made it", () => {
    const same = asked();
    same.ask("una");
    expect(same.question()).toMatchObject({ purpose: "question", holder: "una" });
    const cover = asked(undefined, {}, { declan: "una" });
    cover.ask("declan");
    expect(cover.question()).toMatchObject({
      purpose: "question",
      candidates: [{ person: "una", for: "declan" }],
    });
  });

  it("for advice is not handed to whoever made the request: they would see what its step shows", () => {
    const { h, ask, question } = asked();
    ask("declan");
    const t = question().id;
    expect(code(h.send({ type: "hand over", actor: "declan", task: t, to: "una", note: "" }))).toBe(
      "own-request",
    );
    expect(h.send({ type: "hand over", actor: "declan", task: t, to: "fergus", note: "" }).ok).toBe(true);
    expect(question()).toMatchObject({ purpose: "advice", holder: "fergus" });
  });

  it("needs words, on both sides, and is asked of somebody who is there and no other", () => {
    const { h, ask, say, own } = asked();
    expect(code(ask(null, "  "))).toBe("note-needed");
    expect(code(ask("carmel"))).toBe("cannot-ask");
    expect(code(ask(null, "Why?", "declan"))).toBe("not-yours");
    h.left.add("fergus");
    expect(code(ask("fergus"))).toBe("cannot-ask");
    ask(null);
    expect(code(say("una", " "))).toBe("note-needed");
    expect(code(say("declan"))).toBe("not-yours");
    const back = h.open().find((t) => t.question)!;
    const asksBack = h.send({ type: "ask", actor: "una", task: back.id, to: "carmel", note: "What?" });
    expect(code(asksBack)).toBe("only-answers");
    for (const r of [ask(null, ""), ask("carmel"), asksBack])
      if (!r.ok) expect(refusalSentence(r.refusal, (id) => id)).toMatch(/\w.*\.$/);
    expect(h.state.tasks[own]!.status).toBe("open");
  });

  it("is one of twenty at most that are open at once", () => {
    const { ask, say } = asked();
    for (let i = 0; i < 20; i++) expect(ask(null).ok).toBe(true);
    expect(code(ask(null))).toBe("too-many-questions");
    say("una");
    expect(ask(null).ok).toBe(true);
  });

  it("is not asked any more once its task is answered, handed on to nobody, or the request withdrawn", () => {
    const one = asked();
    one.ask(null);
    const q = one.question().id;
    one.h.send({ type: "answer", actor: "carmel", task: one.own, answer: "yes", note: "", data: {} });
    expect([one.h.state.tasks[q]!.status, one.h.state.visits]).toEqual(["closed", {}]);
    const two = asked();
    two.ask("declan");
    two.h.send({ type: "withdraw", actor: "una", note: "" });
    expect(two.h.open()).toEqual([]);
    // Of several who decide only the one who asked has answered: the others still do.
    const three = asked(undefined, { who: { rule: REGISTRY, how: "all" } } as Partial<Step>);
    const own = three.h.open().find((t) => t.holder === "carmel")!;
    three.ask(null, "Which?", "carmel", own.id);
    three.h.send({ type: "answer", actor: "carmel", task: own.id, answer: "yes", note: "", data: {} });
    expect(three.h.open().filter((t) => t.question)).toEqual([]);
    expect(three.h.state.status).toBe("under way");
  });

  it("stays with a task that is handed over, and its answer is told to whoever has that", () => {
    const { h, own, ask, say } = asked();
    ask(null);
    h.send({ type: "hand over", actor: "carmel", task: own, to: "brendan", note: "" });
    const before = h.state;
    const d = say("una");
    const release = compileRelease(definitionOf([decideBy("check", CARMEL, answers)]), {}, KINDS);
    const news = d.ok ? newsOf(release, before, d.state, d.events) : [];
    expect(news.map((n) => [n.kind, n.to, n.task])).toEqual([["answer came", "brendan", own]]);
  });

  it("goes to the cover of whoever is away, and is given up where they have left", () => {
    const { h, ask, question } = asked({ still: "anybody" });
    ask("declan");
    h.left.add("declan");
    const before = h.state;
    const d = h.send({ type: "ask others" });
    expect(h.open()).toHaveLength(1);
    const release = compileRelease(definitionOf([decideBy("check", CARMEL, answers)]), {}, KINDS);
    const news = d.ok ? newsOf(release, before, d.state, d.events) : [];
    expect(news.map((n) => [n.kind, n.to])).toEqual([["answer came", "carmel"]]);
    expect(h.open()[0]!.due).not.toBeNull();
    const away = asked(undefined, {}, {});
    away.ask("declan");
    expect(question()).toBeUndefined();
    expect(away.question().candidates).toEqual([{ person: "declan" }]);
  });

  it("is left out by an owner who chooses how the step goes on", () => {
    const { h, ask, visit } = asked();
    ask(null);
    h.send({ type: "skip", actor: "owner", token: visit()!.token, way: "yes", note: "It is late." });
    expect([h.state.status, h.open()]).toEqual(["finished", []]);
  });

  it("stands on the trail in its words, until they are forgotten", () => {
    const { h, ask, say, definition } = asked({ still: "asker" });
    ask(null);
    say("una");
    h.answer("carmel", "yes");
    const names = {
      step: () => "Check",
      person: (id: string) => id,
      time: () => "then",
      mends: false,
      inCall: () => null,
      task: (id: string) => h.state.tasks[id] ?? null,
    } as never;
    const lines = h.events.flatMap((e) => trailLine(e, names, KINDS) ?? []);
    expect(lines.map((l) => [l.by, l.text, l.note])).toEqual(
      expect.arrayContaining([
        ["carmel", "Check: asks una", "Which?"],
        [null, "Check: its limit stands still until that is answered", ""],
        ["una", "answered what was asked", "The second."],
        [null, "Check: its limit goes on, until then", ""],
      ]),
    );
    const release = compileRelease(definition, {}, KINDS);
    const gone = { fields: new Set<string>(), inCalls: false, asker: false, notesOf: "carmel" };
    const forgotten = replay(forgetEvents(h.events, release, gone), NEW_REQUEST);
    expect(JSON.stringify(forgotten)).not.toContain("Which?");
    expect(JSON.stringify(forgotten)).toContain("The second.");
  });

  it("is no answer of the step: neither among those given there, nor by one who may not decide the next", () => {
    const second = {
      ...decideBy("second", { by: "person", person: "declan" }, answers),
      who: {
        rule: { by: "person", person: "declan" },
        how: "one",
        never: [{ by: "answered", step: "first" }],
      },
    } as Step;
    const definition = definitionOf([decideBy("first", CARMEL, [ans("on", "agree")]), second]);
    const h = harness(definition);
    h.start();
    const own = h.open()[0]!.id;
    h.send({ type: "ask", actor: "carmel", task: own, to: "declan", note: "Well?" });
    const q = h.open().find((t) => t.question)!.id;
    h.send({ type: "answer", actor: "declan", task: q, answer: "said", note: "Well.", data: {} });
    h.send({ type: "answer", actor: "carmel", task: own, answer: "on", note: "", data: {} });
    expect(h.asked()).toEqual(["declan"]);
    const given = answersGiven(compileRelease(definition, {}, KINDS), h.state, "first", null, "each");
    expect(given.map((g) => [g.answer, g.by])).toEqual([["on", "carmel"]]);
    const last = answersGiven(compileRelease(definition, {}, KINDS), h.state, "first");
    expect(last.map((g) => g.by)).toEqual(["carmel"]);
    // Of a large request what was said is put away, and the answer of the step stays to be read.
    const past = partsChanged(null, h.state).written.filter((p) => p.past);
    expect(past.flatMap((p) => Object.keys(p.tasks))).toEqual([q]);
  });

  it("has one answer, which is none of the step's", () => {
    const { h, ask, question } = asked();
    ask(null);
    const release = compileRelease(definitionOf([decideBy("check", CARMEL, answers)]), {}, KINDS);
    expect(answersOf(release, question()).map((a) => a.id)).toEqual(["said"]);
    const d = h.send({
      type: "answer",
      actor: "una",
      task: question().id,
      answer: "yes",
      note: "x",
      data: {},
    });
    expect(code(d)).toBe("unknown-answer");
  });

  it("changes nothing of the form, whatever comes with its answer", () => {
    const { h, ask, question } = asked();
    ask(null);
    const data = { total: "9", reason: "Because" };
    h.send({ type: "answer", actor: "una", task: question().id, answer: "said", note: "So.", data });
    expect(h.state.data).toMatchObject({ total: "100", reason: null });
  });
});

describe("a limit that may stand still", () => {
  const remind = (id: string, when: Rung["when"], hours?: number): Rung => ({
    id,
    when,
    ...(hours ? { length: { amount: hours, unit: "working hours" as const } } : {}),
    action: { do: "remind" },
  });

  it("goes on as it was where it does not say so, or only for whoever made the request", () => {
    const plain = asked({});
    const due = plain.visit()!.due;
    plain.ask(null);
    expect(plain.visit()!.due).toBe(due);
    const some = asked({ still: "asker" });
    some.ask("declan");
    expect(some.visit()!.due).toBe(due);
    some.ask(null);
    expect(some.visit()!.due).toBeNull();
  });

  it("goes on with the working time that was left, and of its ladder with what had not happened", () => {
    const rungs = [remind("early", "before", 12), remind("late", "before", 2), remind("at", "at")];
    const { h, ask, say, visit } = asked({ still: "asker", rungs });
    // Two working days are sixteen hours: the first rung falls at 14:00 of the same day.
    const early = Object.values(h.state.timers).find((t) => t.rung === "early")!;
    expect(early.at).toBe(T0 + 4 * H);
    h.at(early.at);
    h.send({ type: "time reached", timer: early.id });
    h.at(T0 + 5 * H);
    ask(null);
    expect([visit()!.due, Object.keys(h.state.timers)]).toEqual([null, []]);
    // Answered on Friday at 16:00, with eleven hours left: Tuesday at 11:00.
    h.at(T0 + (3 * 24 + 6) * H);
    say("una");
    expect(visit()!.due).toBe(T0 + (7 * 24 + 1) * H);
    const timers = Object.values(h.state.timers).sort((a, b) => a.at - b.at);
    expect(timers.map((t) => [t.rung, (t.at - T0) / H])).toEqual([
      ["late", 7 * 24 - 1],
      ["at", 7 * 24 + 1],
    ]);
  });

  it("is late that was late before it was asked", () => {
    const { h, ask, visit } = asked({ still: "anybody" });
    const { due } = visit()!;
    h.at(due! + H);
    ask(null);
    expect(visit()).toMatchObject({ due });
    expect(visit()!.stopped).toBeUndefined();
  });

  it("is what an owner gives it, from then on", () => {
    const { h, own, ask, say, visit } = asked({ still: "anybody", rungs: [remind("at", "at")] });
    ask(null);
    const due = T0 + 30 * H;
    h.send({ type: "change limit", actor: "owner", task: own, due, note: "It is urgent." });
    expect([visit()!.due, visit()!.stopped]).toEqual([due, undefined]);
    h.at(T0 + 20 * H);
    say("una");
    expect([visit()!.due, Object.values(h.state.timers).map((t) => t.at)]).toEqual([due, [due]]);
  });

  it("does not stand still for the next of those asked one after another", () => {
    const { h, ask, visit } = asked({ still: "anybody" }, {
      who: { rule: REGISTRY, how: "order" },
    } as Partial<Step>);
    const first = h.open()[0]!;
    h.at(T0 + 2 * H);
    ask(null, "Which?", first.holder!, first.id);
    h.at(T0 + 5 * H);
    h.send({ type: "answer", actor: first.holder!, task: first.id, answer: "yes", note: "", data: {} });
    expect(visit()!.stopped).toBeUndefined();
    expect(h.open()).toHaveLength(1);
    // The whole of it from now, and not what was left to the one before.
    expect(h.open()[0]!.due).toBe(T0 + 53 * H);
  });

  it("has no rung happen twice that falls after now once more", () => {
    const early: Rung = { ...remind("early", "before"), length: { amount: 1, unit: "days" } };
    const { h, ask, say, visit } = asked({ still: "asker", rungs: [early] });
    h.at(T0 + 24 * H);
    h.send({ type: "time reached", timer: Object.keys(h.state.timers)[0]! });
    h.at(T0 + 25 * H);
    ask(null);
    // Seven hours are left on Friday at 16:00: Monday at 15:00, and a day before that is on Sunday.
    h.at(T0 + (3 * 24 + 6) * H);
    say("una");
    expect([visit()!.due, h.state.timers]).toEqual([T0 + (6 * 24 + 5) * H, {}]);
  });

  it("stands still until all are answered for whom it does", () => {
    const { ask, say, visit } = asked({ still: "anybody" });
    ask(null);
    ask("declan");
    say("una");
    expect(visit()!.due).toBeNull();
    say("declan");
    expect(visit()!.due).not.toBeNull();
  });
});

import { KINDS } from "@/kinds";
import type { Step } from "../route";
import { refusalSentence, trailLine } from "../words";
import { compileRelease, decide, forgetEvents, NEW_REQUEST, newsOf, replay } from ".";
import { officeFacts } from "./testOffice";
import { ans, decideBy, definitionOf, fin, harness, T0 } from "./testRequest";

const CARMEL = { by: "person" as const, person: "carmel" };
const REGISTRY = { by: "group" as const, group: "registry" };
const answers = [
  ans("yes", "agree", [fin("end", "done")]),
  ans("no", "refuse", [fin("off", "refused", "refuse")]),
  ans("return", "plain", [], { returns: true }),
];

function begun(more: Partial<Step> = {}, away: Record<string, string> = {}) {
  const step = { ...decideBy("check", CARMEL, answers), ...more } as Step;
  const definition = definitionOf([step], { access: { check: { reason: "edit" } } });
  const h = harness(definition, away);
  h.start();
  const own = () => h.open().find((t) => t.holder === "carmel") ?? h.open()[0]!;
  const id = own().id;
  const task = () => h.state.tasks[id]!;
  const hand = (actor: string, to: string, back = true) =>
    h.send({ type: "hand over", actor, task: id, to, note: "", back });
  const say = (actor: string, answer = "yes", note = "Fine.", data = {}) =>
    h.send({ type: "answer", actor, task: id, answer, note, data });
  return { h, task, hand, say, definition };
}
const code = (d: { ok: boolean; refusal?: { code: string } }) => (d.ok ? null : d.refusal!.code);

describe("a task that is handed over to be had back", () => {
  it("comes back with what whoever had it would answer and what they filled in; then it is answered", () => {
    const { h, task, hand, say } = begun();
    expect(hand("carmel", "declan").ok).toBe(true);
    expect(task()).toMatchObject({ holder: "declan", back: ["carmel"] });
    expect(say("declan", "yes", "Fine.", { reason: "Seen it." }).ok).toBe(true);
    expect(h.state.status).toBe("under way");
    expect(task()).toMatchObject({ holder: "carmel", status: "open" });
    expect(task().proposed).toMatchObject({ label: "yes", note: "Fine.", by: "declan" });
    expect(task().back).toBeUndefined();
    expect(h.state.data["reason"]).toBe("Seen it.");
    expect(code(say("declan"))).toBe("not-yours");
    expect(say("carmel", "no").ok).toBe(true);
    expect(h.state.result?.name).toBe("refused");
    expect(h.state.tasks[task().id]).toMatchObject({ by: "carmel", answer: "no" });
    expect(replay(h.events, NEW_REQUEST)).toEqual(h.state);
  });

  it("goes back one after another through all who want it", () => {
    const { task, hand, say, h } = begun();
    hand("carmel", "declan");
    hand("declan", "fergus");
    expect(task().back).toEqual(["declan", "carmel"]);
    say("fergus");
    expect(task()).toMatchObject({ holder: "declan", back: ["carmel"] });
    say("declan", "no");
    expect(task()).toMatchObject({ holder: "carmel" });
    say("carmel");
    expect(h.state.result?.name).toBe("done");
  });

  it("comes back to the first also where the second hands it on for good", () => {
    const { task, hand, say } = begun();
    hand("carmel", "declan");
    hand("declan", "fergus", false);
    say("fergus");
    expect(task().holder).toBe("carmel");
  });

  it("is nobody's to have back who has it: handed back, it is answered", () => {
    const { task, hand, say, h } = begun();
    hand("carmel", "declan");
    hand("declan", "carmel", false);
    expect(task().back).toBeUndefined();
    say("carmel");
    expect(h.state.status).toBe("finished");
  });

  it("sends nothing back for changes before whoever has it again does", () => {
    const { h, hand, say, task } = begun();
    hand("carmel", "declan");
    say("declan", "return");
    expect([task().holder, h.open().length]).toEqual(["carmel", 1]);
    say("carmel", "return");
    expect(h.open()[0]).toMatchObject({ purpose: "changes" });
  });

  it("comes back to the cover of whoever is away, and counts where they have left", () => {
    const away: Record<string, string> = {};
    const one = begun({}, away);
    one.hand("carmel", "declan");
    away["carmel"] = "brendan";
    one.say("declan");
    expect(one.task().candidates).toEqual([{ person: "brendan", for: "carmel" }]);
    const two = begun();
    two.hand("carmel", "declan");
    two.h.left.add("carmel");
    two.say("declan");
    expect(two.h.state.result?.name).toBe("done");
  });

  it("comes back to whoever is away themselves where their cover made the request", () => {
    const away: Record<string, string> = {};
    const { h, hand, say } = begun({}, away);
    hand("carmel", "declan");
    away["carmel"] = "una";
    say("declan");
    expect(h.asked()).toEqual(["carmel"]);
  });

  it("is for good once an owner hands it to somebody else", () => {
    const { h, task, hand, say } = begun();
    hand("carmel", "declan");
    h.send({ type: "reassign", actor: "owner", task: task().id, to: "fergus", note: "Carmel is ill." });
    expect(task().back).toBeUndefined();
    say("fergus");
    expect(h.state.status).toBe("finished");
  });

  it("stays to be had back where whoever has it leaves and their cover has it instead", () => {
    const away: Record<string, string> = {};
    const { h, task, hand, say } = begun({}, away);
    hand("carmel", "declan");
    away["declan"] = "fergus";
    h.send({ type: "ask others" });
    expect(task()).toMatchObject({ holder: "fergus", back: ["carmel"] });
    say("fergus");
    expect(task().holder).toBe("carmel");
  });

  it("comes back to whoever is away themselves where their cover is who has it", () => {
    const away: Record<string, string> = {};
    const { h, hand, say } = begun({}, away);
    hand("carmel", "declan");
    away["carmel"] = "declan";
    say("declan");
    expect(h.asked()).toEqual(["carmel"]);
  });

  it("counts where whoever gave it has a vote by another task meanwhile: nobody has two", () => {
    const { h, hand, say, task } = begun({ who: { rule: REGISTRY, how: "all" } } as Partial<Step>);
    hand("carmel", "brendan");
    const other = h.open().find((t) => t.id !== task().id)!;
    h.send({ type: "hand over", actor: other.holder!, task: other.id, to: "carmel", note: "" });
    expect(say("brendan").ok).toBe(true);
    expect(task()).toMatchObject({ status: "answered", by: "brendan" });
    expect(h.open().filter((t) => t.holder === "carmel")).toHaveLength(1);
  });

  it("sends no changes before whoever was asked for them has it again", () => {
    const { h, say, hand } = begun();
    say("carmel", "return");
    const changes = h.open()[0]!;
    const by = {
      type: "hand over" as const,
      actor: "una",
      task: changes.id,
      to: "declan",
      note: "",
      back: true,
    };
    expect(h.send(by).ok).toBe(true);
    const sent = { type: "answer" as const, task: changes.id, answer: "sent", note: "", data: {} };
    expect(h.send({ ...sent, actor: "declan" }).ok).toBe(true);
    expect([h.asked(), h.open()[0]!.purpose]).toEqual([["una"], "changes"]);
    expect(h.send({ ...sent, actor: "una" }).ok).toBe(true);
    expect([h.asked(), h.open()[0]!.purpose]).toEqual([["carmel"], "decide"]);
    expect(code(hand("una", "declan"))).not.toBeNull();
  });

  it("is for good where something is signed: whoever signs answers", () => {
    const { h, task, definition } = begun();
    const release = compileRelease(definition, {}, KINDS);
    const visits = Object.fromEntries(
      Object.entries(h.state.visits).map(([id, v]) => [id, { ...v, paper: { file: "f", field: "reason" } }]),
    );
    const over = { type: "hand over" as const, actor: "carmel", task: task().id, to: "declan", note: "" };
    const on = (back: boolean) => decide(release, { ...h.state, visits }, { ...over, back }, officeFacts(T0));
    expect([code(on(true)), code(on(false))]).toEqual(["signs-for-good", null]);
  });

  it("is no question: that is answered by whoever has it", () => {
    const { h, task } = begun();
    h.send({ type: "ask", actor: "carmel", task: task().id, to: null, note: "Which?" });
    const q = h.open().find((t) => t.question)!.id;
    h.send({ type: "hand over", actor: "una", task: q, to: "declan", note: "", back: true });
    expect(h.state.tasks[q]!.back).toBeUndefined();
    h.send({ type: "answer", actor: "declan", task: q, answer: "said", note: "This.", data: {} });
    expect(h.state.tasks[q]!.status).toBe("answered");
  });

  it("has one vote, which is that of whoever has it again", () => {
    const { h, hand, say, task } = begun({ who: { rule: REGISTRY, how: "all" } } as Partial<Step>);
    const asked = Object.values(h.state.visits)[0]!.asked;
    hand("carmel", "declan");
    say("declan", "no");
    expect(h.state.status).toBe("under way");
    expect(Object.values(h.state.visits)[0]!.asked).toBe(asked);
    expect(task()).toMatchObject({ holder: "carmel", status: "open" });
  });

  it("is not handed so to a colleague who decides beside: nothing would come back", () => {
    const { h, hand } = begun({ who: { rule: REGISTRY, how: "all" } } as Partial<Step>);
    const other = h.open().find((t) => t.holder !== "carmel")!.holder!;
    const d = hand("carmel", other);
    expect(code(d)).toBe("same-person");
    if (!d.ok) expect(refusalSentence(d.refusal, (id) => id)).toContain(other);
    expect(h.state.tasks).toMatchObject({});
  });

  it("is checked like an answer: a note that is needed, an answer that is none", () => {
    const { hand, say } = begun({
      answers: [ans("yes", "agree", [fin("end", "done")], { note: "must" })],
    } as Partial<Step>);
    hand("carmel", "declan");
    expect(code(say("declan", "yes", " "))).toBe("note-needed");
    expect(code(say("declan", "never"))).toBe("unknown-answer");
  });

  it("is told to whoever has it again, stands on the trail, and is forgotten with other notes", () => {
    const { h, hand, say, definition } = begun();
    hand("carmel", "declan");
    const before = h.state;
    const d = say("declan");
    const release = compileRelease(definition, {}, KINDS);
    const news = d.ok ? newsOf(release, before, d.state, d.events) : [];
    expect(news.map((n) => [n.kind, n.to])).toEqual([["came back", "carmel"]]);
    const names = { step: () => "Check", person: (id: string) => id, task: () => null } as never;
    const lines = h.events.flatMap((e) =>
      e.type === "task handed over" || e.type === "answer proposed" ? trailLine(e, names, KINDS)! : [],
    );
    expect(lines.map((l) => [l.by, l.text, l.note])).toEqual([
      ["carmel", "handed over to declan, to have it back", ""],
      ["declan", "would answer: yes; it is with carmel again", "Fine."],
    ]);
    const gone = { fields: new Set<string>(), inCalls: false, asker: false, notesOf: "declan" };
    expect(JSON.stringify(replay(forgetEvents(h.events, release, gone), NEW_REQUEST))).not.toContain("Fine.");
  });
});

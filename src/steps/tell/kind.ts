import { ANY, checkFormula, Entity, isList, typeInWords, type Value } from "@/core/expression";
import type { StepBehaviour } from "@/core/kinds";

/** A notice to somebody; the route goes on without waiting for it. */
export const tell: StepBehaviour<"tell"> = {
  verb: "Tell",
  says: "a notice to somebody",
  blank: (id) => ({
    id,
    name: "Tell the requester",
    kind: "tell",
    who: { by: "requester" },
    subject: "{Request.number}",
    text: "",
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    who: walk.rule("who", "who is told", s.who),
    subject: walk.template({ place: "subject", says: "the subject" }, s.subject),
    text: walk.template({ place: "text", says: "the text" }, s.text),
    ...(s.on === undefined
      ? {}
      : { on: walk.formula({ place: "on", says: "the record a note is left on", wants: ANY }, s.on) }),
  }),
  steps: (s) => s,
  sets: () => [],
  problems(s, { scope, say }) {
    if (!s.on?.trim()) return;
    const { type } = checkFormula(s.on, scope);
    const one = type.t === "list" ? type.of : type;
    const isRecord =
      one.t === "context" && one.what !== undefined && one.what !== "person" && one.what !== "file";
    if (!isRecord && one.t !== "any" && one.t !== "null" && !(one.t === "context" && one.open))
      say("error", "no-record", `A note is left on a record; “${s.on}” is ${typeInWords(type)}.`, "on");
  },
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    const people = turn.people("who", s.who);
    const on = s.on?.trim() ? recordsOf(turn.value("on", s.on)) : [];
    if (people.length > 0 || on.length > 0)
      turn.send({
        kind: "tell",
        people,
        subject: turn.text("subject", s.subject),
        text: turn.text("text", s.text),
        ...(on.length > 0 ? { on } : {}),
      });
    return { go: "on" };
  },
  forget: { work: (w) => ({ ...w, subject: "", text: "" }), result: (r) => r },
  tells: (w) => w.people,
  kept: ({ people, on = [] }) => ({ people, ...(on.length > 0 ? { notes: on.length } : {}) }),
  doneWords({ people, notes = 0 }, _, names) {
    const told = `${people.map(names.person).join(", ")} ${people.length > 1 ? "were" : "was"} told`;
    const left = `a note was left on ${notes === 1 ? "a record" : `${notes} records`}`;
    const parts = [...(people.length > 0 ? [told] : []), ...(notes > 0 ? [left] : [])];
    return { text: parts.join("; "), quiet: true };
  },
};

/** The records a value is, each once; people and files are none. */
function recordsOf(v: Value): { register: string; id: string }[] {
  const all = isList(v) ? v : [v];
  const found = all.flatMap((x) =>
    x instanceof Entity && x.of !== "person" && x.of !== "file" ? [{ register: x.of, id: x.id }] : [],
  );
  return [...new Map(found.map((r) => [`${r.register}/${r.id}`, r])).values()];
}

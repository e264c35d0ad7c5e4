import type { StepBehaviour, StepTurn } from "@/core/kinds";
import type { StepOf } from "@/core/route";
import type { SignWork } from "./shape";

type Step = StepOf<"complete">;

/** A person fills in or confirms, and signs a document by it where the step says so. */
export const complete: StepBehaviour<"complete"> = {
  verb: "Complete",
  says: "a person fills in or confirms",
  blank: (id) => ({
    id,
    name: "Task",
    kind: "complete",
    who: { rule: { by: "requester" }, how: "one", requesterToo: true },
    button: "Done",
  }),
  lists: null,
  asks: {
    purpose: "complete",
    verb: "confirms",
    who: (s) => s.who,
    limit: (s) => s.limit,
    offers: (s) => s.offers,
    byMail: (s) => s.byMail,
    answers: (s) => [{ id: "done", label: s.button, tone: "agree", ...(s.anew ? { anew: s.anew } : {}) }],
    answered(s, _, turn) {
      const work = turn && workOf(turn, s);
      return work ? { go: "waits", work } : { go: "on" };
    },
    beside: (s) => s.beside ?? null,
    signs: (s) => s.signs ?? null,
  },
  formulas: (s, walk) => walk.asks(s),
  steps: (s, at) => (s.signs ? { ...s, signs: { ...s.signs, document: at(s.signs.document) } } : s),
  sets: (s) => (s.signs?.into === undefined ? [] : [s.signs.into]),
  pages: (s) => s.signs !== undefined,
  problems: () => undefined,
  exit: () => null,
  goesOn: () => true,
  passes: false,
  enter(turn, s, again) {
    // Who signed has signed; only what is made of it could not be.
    const work = again ? workOf(turn, s) : null;
    if (work) return { go: "waits", work };
    // What was signed an earlier time must not be taken for what is signed this time.
    if (s.signs) turn.keep({ value: null });
    return { go: "asks" };
  },
  done(turn, s, { files: [signed] }) {
    if (!signed) return { go: "on" };
    turn.keep({ value: { of: "file", id: signed.id } });
    if (s.signs?.into !== undefined) turn.keepFiles(s.signs.into, [signed.id]);
    return { go: "on" };
  },
  rehearse: () => ({ files: [] }),
  tells: () => [],
  forget: {
    work: (w) => w,
    result: (r) => ({ ...r, files: r.files.map((f) => ({ ...f, name: "" })) }),
  },
  doneWords({ files: [signed], pages }, step) {
    if (!signed) return { text: `${step}: nothing signed` };
    const long = pages === undefined ? "" : `, ${pages} ${pages === 1 ? "page" : "pages"}`;
    return { text: `${step}: the signed document is made${long}, fingerprint ${signed.sha256}` };
  },
  reasons: {
    "not-made-signed": (d) =>
      `"${d.step}" was signed, but the signed document could not be made: ${d.message}`,
  },
};

/** What is to be made of a signature that was given; null where none was, as where a ladder answered or an owner went on. */
function workOf(turn: StepTurn, { signs }: Step): SignWork | null {
  const signed = signs && turn.signed(signs.field);
  return signed ? { kind: "complete", signs: signed, field: signs.field } : null;
}

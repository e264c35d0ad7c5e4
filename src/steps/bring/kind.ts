import { ANY, checkFormula, Entity, isList, isNum, NUMBER, typeInWords, type Value } from "@/core/expression";
import type { StepBehaviour, StepTurn } from "@/core/kinds";
import { MOST_COPIES, OUTLET_SAYS, type StepOf } from "@/core/route";
import type { BringWork } from "./shape";

type Step = StepOf<"bring">;

/** Brings documents to the file shelf or the print room. */
export const bring: StepBehaviour<"bring"> = {
  verb: "Bring",
  says: "documents to the file shelf or the print room",
  blank: (id) => ({
    id,
    name: "Bring it there",
    kind: "bring",
    what: "",
    to: { outlet: "print room", copies: "1" },
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    what: walk.formula({ place: "what", says: "what is brought", wants: ANY }, s.what),
    to:
      s.to.outlet === "shelf"
        ? { ...s.to, folder: walk.template({ place: "folder", says: "the folder" }, s.to.folder) }
        : {
            ...s.to,
            copies: walk.formula({ place: "copies", says: "how many copies", wants: NUMBER }, s.to.copies),
          },
  }),
  steps: (s) => s,
  sets: () => [],
  problems(s, { scope, office, say }) {
    if (!s.what.trim())
      say("error", "nothing-to-bring", "Say what is brought: a document, or several.", "what");
    else {
      const { type } = checkFormula(s.what, scope);
      const one = type.t === "list" ? type.of : type;
      const open = one.t === "any" || one.t === "null" || (one.t === "context" && one.open === true);
      if (!open && !(one.t === "context" && one.what === "file"))
        say("error", "no-file", `Documents are brought; “${s.what}” is ${typeInWords(type)}.`, "what");
    }
    if (office?.outlets && !office.outlets.includes(s.to.outlet))
      say(
        "error",
        "no-outlet",
        `“${s.name}” brings something to the ${OUTLET_SAYS[s.to.outlet]}, and none is set up in Office.`,
        "to",
      );
  },
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    const files = filesIn(turn.value("what", s.what));
    const to = whereTo(turn, s);
    if (to === null)
      return {
        go: "stuck",
        reason: {
          code: "not-brought",
          data: { step: s.name, message: `copies are a whole number from 1 to ${MOST_COPIES}.` },
        },
      };
    return { go: "waits", work: { kind: "bring", files, to, since: turn.now() } };
  },
  done: () => ({ go: "on" }),
  rehearse: () => ({ brought: 0, jobs: [] }),
  tells: () => [],
  forget: {
    work: (w) => (w.to.outlet === "shelf" ? { ...w, to: { ...w.to, folder: "" } } : w),
    result: (r) => r,
  },
  // Names of files and folders may tell of fields that are hidden from who reads the trail.
  doneWords({ brought, jobs }, step) {
    const as = jobs.length === 0 ? "" : `, ${jobs.length === 1 ? "job" : "jobs"} ${jobs.join(", ")}`;
    return { text: `${step}: ${brought === 1 ? "one document" : `${brought} documents`} brought${as}` };
  },
  reasons: {
    "not-brought": (d) => `"${d.step}" could not be done: ${d.message}`,
  },
};

function whereTo(turn: StepTurn<"bring">, { to }: Step): BringWork["to"] | null {
  if (to.outlet === "shelf") return { outlet: "shelf", folder: turn.text("folder", to.folder).trim() };
  const v = turn.value("copies", to.copies);
  const copies = isNum(v) ? Number(v.toString()) : NaN;
  return Number.isInteger(copies) && copies >= 1 && copies <= MOST_COPIES
    ? { outlet: "print room", copies }
    : null;
}

/** The files a value is, each once. */
function filesIn(v: Value): string[] {
  const all = isList(v) ? v : [v];
  return [...new Set(all.flatMap((x) => (x instanceof Entity && x.of === "file" ? [x.id] : [])))];
}

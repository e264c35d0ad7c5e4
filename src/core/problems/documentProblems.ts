import { tagTree, type DocumentTemplate } from "../document";
import { stepKind, type Kinds, type Say } from "../kinds";
import { documentsUsed, tagPlace, type ProcessDefinition, type StepPlace } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with the templates of a process, besides mistakes in their formulas. */
export function documentProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
  out: Problem[],
) {
  const documents = d.documents ?? [];
  const ids = new Set(documents.map((x) => x.id));
  const sayAt =
    (kind: "document" | "step", id: string): Say =>
    (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place(kind, id, at), message, ...(mend ? { mend } : {}) });
  for (const { step } of places.values())
    for (const id of stepKind(kinds, step).documents?.(step) ?? [])
      if (!ids.has(id))
        sayAt("step", step.id)(
          "error",
          "no-document",
          `“${step.name}” draws up from a template that is not there any more.`,
          "document",
        );
  const used = documentsUsed(d, kinds);
  for (const x of documents) {
    const say = sayAt("document", x.id);
    nameProblems(x, documents, say);
    for (const m of tagTree(x.tags).mistakes) {
      const { in: piece, near } = x.tags[m.at]!;
      const where = piece === "text" ? "" : ` in the ${piece}`;
      say("error", m.code, `${m.message} It stands${where} at “${near}”.`, tagPlace(m.at));
    }
    if (!used.has(x.id))
      say(
        "warning",
        "document-unused",
        `Nothing is drawn up from “${x.name}”. Choose it at a step that draws up, or take it away.`,
      );
  }
}

function nameProblems(x: DocumentTemplate, all: readonly DocumentTemplate[], say: Say) {
  const name = x.name.trim().toLowerCase();
  if (!name) return say("error", "no-name", "A template needs a name, for example: Loan agreement.", "name");
  if (all.some((y) => y !== x && y.name.trim().toLowerCase() === name))
    say("warning", "name-twice", `Two templates are called “${x.name}”; nobody can tell them apart.`, "name");
}

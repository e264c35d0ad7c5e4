import { templateParts } from "../expression";
import type { Kinds, Say } from "../kinds";
import { safeLink, type Letter, type LetterPart, type Run } from "../letter";
import { letterPlace, lettersOf, lettersUsed, type ProcessDefinition, type StepPlace } from "../route";
import { place, type Problem } from "./problem";

/** What is wrong with the letters of a process, besides mistakes in their formulas. */
export function letterProblems(
  d: ProcessDefinition,
  places: ReadonlyMap<string, StepPlace>,
  kinds: Kinds,
  out: Problem[],
) {
  const letters = new Map((d.letters ?? []).map((l) => [l.id, l]));
  const sayAt =
    (kind: "letter" | "step", id: string): Say =>
    (severity, code, message, at, mend) =>
      out.push({ severity, code, where: place(kind, id, at), message, ...(mend ? { mend } : {}) });
  for (const { step } of places.values())
    for (const id of new Set(lettersOf(step, d.ladders, kinds))) {
      const letter = letters.get(id);
      const say = sayAt("step", step.id);
      if (!letter)
        say("error", "no-letter", `“${step.name}” sends a letter that is not there any more.`, "letter");
      else if (letter.closes)
        say(
          "error",
          "no-letter",
          `“${letter.name}” closes letters; “${step.name}” cannot send it by itself.`,
          "letter",
        );
    }
  const used = lettersUsed(d, kinds);
  const closing = new Set((d.letters ?? []).map((l) => l.closing));
  for (const l of letters.values()) {
    const say = sayAt("letter", l.id);
    if (!l.name.trim()) say("error", "no-name", "A letter needs a name, for example: Confirmation.", "name");
    const alike = [...letters.values()].find(
      (x) => x !== l && x.name.trim().toLowerCase() === l.name.trim().toLowerCase(),
    );
    if (alike && l.name.trim())
      say("warning", "name-twice", `Two letters are called “${l.name}”; nobody can tell them apart.`, "name");
    closingProblems(l, letters, say);
    textProblems(l, say);
    if (!l.byHand && !(l.closes ? closing.has(l.id) : used.has(l.id)))
      say(
        "warning",
        "letter-unused",
        l.closes
          ? `“${l.name}” closes no letter. Choose it under a letter, or take it away.`
          : `Nothing sends “${l.name}”. Choose it at a step that tells, allow that it is sent by hand, or take it away.`,
      );
  }
}

function closingProblems(l: Letter, letters: ReadonlyMap<string, Letter>, say: Say) {
  if (l.closing === undefined) return;
  const other = letters.get(l.closing);
  if (l.closes)
    say("error", "bad-closing", "What closes letters cannot be closed by another itself.", "closing");
  else if (!other) say("error", "bad-closing", "What closes this letter is not there any more.", "closing");
  else if (!other.closes)
    say("error", "bad-closing", `“${other.name}” is a letter of its own, and closes none.`, "closing");
}

function textProblems(l: Letter, say: Say) {
  const seen = new Set<string>();
  for (const t of l.texts) {
    const language = t.language.toLowerCase();
    if (seen.has(language))
      say(
        "error",
        "language-twice",
        `“${l.name}” has two texts in “${t.language}”; only the first is ever sent.`,
      );
    seen.add(language);
    if (!t.subject.trim() && !l.closes)
      say("error", "no-subject", `“${l.name}” needs a subject.`, letterPlace.subject(t.language));
    if (!t.parts.some(saysSomething))
      say("error", "empty-letter", `“${l.name}” says nothing yet.`, letterPlace.parts(t.language));
    if (t.parts.some(lacksFormula))
      say(
        "error",
        "no-formula",
        `A part of “${l.name}” lacks its condition, its list, or what stands in a column.`,
        letterPlace.parts(t.language),
      );
    for (const link of t.parts.flatMap(linksOf)) {
      // One with values is known when it is sent; then what leads nowhere safe is left a plain text.
      if (templateParts(link).some((p) => "formula" in p) || safeLink(link) !== null) continue;
      say(
        "error",
        "bad-link",
        `“${link}” is no address a link can lead to: write one that begins with https:// or mailto:, for example https://quillhaven.example/loans.`,
        letterPlace.parts(t.language),
      );
    }
  }
  if (l.texts.length > 1 && !l.language?.trim())
    say(
      "warning",
      "no-language",
      `“${l.name}” is written in ${l.texts.length} languages, and nothing says when which is sent: it is always “${l.texts[0]!.language}”.`,
      letterPlace.language,
    );
}

const runsOf = (p: LetterPart): Run[] => {
  switch (p.part) {
    case "paragraph":
    case "heading":
      return p.runs;
    case "list":
      return p.items.flat();
    case "table":
      return p.rows.flat(2);
    case "lines":
      return p.columns.flatMap((c): Run[] => [{ text: c.title }, { value: c.value }]);
    case "when":
    case "each":
      return p.parts.flatMap(runsOf);
  }
};
const saysSomething = (p: LetterPart): boolean =>
  runsOf(p).some((r) => ("text" in r ? r.text : r.value).trim() !== "");
const linksOf = (p: LetterPart): string[] => runsOf(p).flatMap((r) => (r.link === undefined ? [] : [r.link]));

/** Whether something of it waits for a formula. */
function lacksFormula(p: LetterPart): boolean {
  switch (p.part) {
    case "paragraph":
    case "heading":
    case "list":
    case "table":
      return runsOf(p).some((r) => "value" in r && r.value.trim() === "");
    case "lines":
      return p.of.trim() === "" || p.columns.some((c) => c.value.trim() === "");
    case "when":
      return p.when.trim() === "" || p.parts.some(lacksFormula);
    case "each":
      return p.of.trim() === "" || p.parts.some(lacksFormula);
  }
}

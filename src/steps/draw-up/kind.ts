import { MOST_OF_DOCUMENT, type DocumentTag, type TreeTag } from "@/core/document";
import { ANY, checkFormula, FILE, listOf, nameMistake, typeInWords } from "@/core/expression";
import { findField } from "@/core/form";
import type { FormulaWalk, Next, StepBehaviour, StepProblems, StepTurn } from "@/core/kinds";
import { gridMistake, MOST_LABELS, type Label } from "@/core/paper";
import type { StepOf } from "@/core/route";
import type { LabelsOf } from "./shape";

type Step = StepOf<"draw up">;

/** Draws up a document from a template, or a sheet of labels. */
export const drawUp: StepBehaviour<"draw up"> = {
  verb: "Draw up",
  says: "a document from a template of the word processor, or a sheet of labels",
  blank: (id) => ({
    id,
    name: "Document",
    kind: "draw up",
    document: "",
    called: "{Request.number}",
    as: "pdf",
  }),
  lists: null,
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    ...(s.labels ? { labels: labelsWalked(s.labels, walk) } : {}),
    called: walk.template({ place: "called", says: "what the file is called" }, s.called),
  }),
  documents: (s) => (s.document && !s.labels ? [s.document] : []),
  draws: () => ["heading", "text"],
  pages: (s) => s.as !== "docx" && !s.labels,
  steps: (s) => s,
  sets: (s) => (s.into === undefined ? [] : [s.into]),
  gives: (s) => (isTwo(s) ? listOf(FILE) : FILE),
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  mayBeNothing: (s) => s.labels !== undefined,
  enter(turn, s) {
    // What an earlier time came to must not be taken for what this one does.
    turn.keep({ value: null });
    const called = turn.text("called", s.called).replace(/\s+/g, " ").trim();
    if (s.labels) return layOut(turn, s, s.labels, called || s.name);
    const { template, filled } = turn.document(s.document);
    const { name, file } = template;
    return {
      go: "waits",
      work: {
        kind: "draw up",
        template: { name, sha256: file.sha256, tags: template.tags.map(placeOf) },
        called: called || name,
        as: s.as,
        filled,
      },
    };
  },
  done(turn, s, { files }) {
    const all = files.map((f) => ({ of: "file", id: f.id }));
    turn.keep({ value: isTwo(s) ? { list: all } : (all[0] ?? null) });
    if (s.into !== undefined && files.length > 0)
      turn.keepFiles(
        s.into,
        files.map((f) => f.id),
      );
    return { go: "on" };
  },
  rehearse: () => ({ files: [] }),
  tells: () => [],
  forget: {
    work: (w) => ({
      ...w,
      called: "",
      ...("labels" in w ? { labels: { ...w.labels, labels: [] } } : { filled: [] }),
    }),
    result: (r) => ({ ...r, files: r.files.map((f) => ({ ...f, name: "" })) }),
  },
  doneWords({ files, pages }, step) {
    const long = pages === undefined ? "" : `, ${pages} ${pages === 1 ? "page" : "pages"}`;
    // By its fingerprint the file can be told later.
    const prints = files.map((f) => ` ${f.sha256.slice(0, 12)}`).join(",");
    return { text: `${step}: drawn up${long}${prints && `, fingerprint${prints}`}` };
  },
  reasons: {
    "not-drawn-up": (d) => `"${d.step}" could not be drawn up: ${d.message}`,
  },
};

const isTwo = (s: Step): boolean => s.as === "both" && !s.labels;

const labelsWalked = (l: LabelsOf, walk: FormulaWalk): LabelsOf => ({
  ...l,
  of: walk.formula(
    { place: "labels", says: "what there are labels for", wants: ANY, goneThrough: true },
    l.of,
  ),
  heading: walk.template(
    { place: "heading", says: "what stands in bold on a label", reads: { eachIn: [l.of] } },
    l.heading,
  ),
  text: walk.template({ place: "text", says: "what stands on a label", reads: { eachIn: [l.of] } }, l.text),
});

/** Labels are pasted to what they are about: what cannot be worked out is no gap on them. */
function layOut(turn: StepTurn<"draw up">, s: Step, l: LabelsOf, called: string): Next<"draw up"> {
  const stuck = (message: string): Next<"draw up"> => ({
    go: "stuck",
    reason: { code: "not-drawn-up", data: { step: s.name, message } },
  });
  const mistake = gridMistake({ ...l, skip: 0 });
  if (mistake !== null) return stuck(mistake);
  const things = turn.each("labels", l.of);
  if (things.length === 0) return { go: "on" };
  if (things.length > MOST_LABELS)
    return stuck(
      `it would have ${things.length.toLocaleString("en")} labels; at most ${MOST_LABELS.toLocaleString("en")} are laid out at once.`,
    );
  let characters = 0;
  const labels: Label[] = [];
  for (const names of things) {
    const heading = turn.exactly("heading", l.heading, names).trim();
    const lines = turn
      .exactly("text", l.text, names)
      .split("\n")
      .map((x) => x.trim())
      .filter((x) => x !== "");
    characters += heading.length + lines.join("").length;
    if (characters > MOST_OF_DOCUMENT.characters)
      return stuck(
        `its labels would have more than ${MOST_OF_DOCUMENT.characters.toLocaleString("en")} characters together.`,
      );
    labels.push({ heading, lines });
  }
  const { across, down, margin } = l;
  return { go: "waits", work: { kind: "draw up", called, labels: { across, down, margin, labels } } };
}

/** What of a tag the tree of a document hangs on; what it says has been worked out. */
function placeOf(t: DocumentTag): TreeTag {
  const { tag, piece } = t;
  return t.tag === "picture" && t.mm !== undefined ? { tag, piece, mm: t.mm } : { tag, piece };
}

function problems(s: Step, around: StepProblems) {
  const { definition, say } = around;
  if (s.labels) labelProblems(s.labels, around);
  else if (!s.document)
    say(
      "error",
      "no-document",
      "Say from which template it is drawn up; upload one on Templates.",
      "document",
    );
  if (!s.called.trim())
    say(
      "error",
      "no-file-name",
      "Say what the file is called, for example Agreement {Request.number}.",
      "called",
    );
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say("error", "bad-name", `What is drawn up is read by the name of the step. ${mistake}`, "name");
  if (s.into === undefined) return;
  const found = findField(definition.fields, s.into);
  const field = found?.field;
  if (!field || found.parents.some((p) => p.kind === "lines"))
    return say("error", "no-field", "The field that is to keep it is not there any more.", "into");
  if (field.kind !== "file" && field.kind !== "files")
    return say("error", "no-field", `“${field.name}” keeps no files. Choose a field that does.`, "into");
  if (field.kind === "file" && isTwo(s))
    say("error", "one-file", `“${field.name}” keeps one file; a document as DOCX and PDF is two.`, "into", {
      label: `Make “${field.name}” a field for several files`,
      edit: { op: "field.set", id: field.id, patch: { kind: "files" } },
    });
}

function labelProblems(l: LabelsOf, { scope, say }: StepProblems) {
  if (!l.of.trim())
    say(
      "error",
      "no-list",
      "Say what there are labels for: records that were found, or line items.",
      "labels",
    );
  else {
    const { type } = checkFormula(l.of, scope);
    if (type.t !== "list" && type.t !== "any" && type.t !== "null")
      say(
        "error",
        "no-list",
        `There is a label for each thing of a list; “${l.of}” is ${typeInWords(type)}.`,
        "labels",
      );
  }
  if (!l.heading.trim() && !l.text.trim())
    say(
      "error",
      "empty-labels",
      "The labels are empty. Say what stands on each, for example {Title}.",
      "heading",
    );
  const mistake = gridMistake({ ...l, skip: 0 });
  if (mistake !== null) say("error", "bad-grid", mistake, "grid");
}

import type { DocumentTag, TreeTag } from "@/core/document";
import { FILE, listOf, nameMistake } from "@/core/expression";
import { findField } from "@/core/form";
import type { StepBehaviour, StepProblems } from "@/core/kinds";
import type { StepOf } from "@/core/route";

type Step = StepOf<"draw up">;

/** Draws up a document from a template. */
export const drawUp: StepBehaviour<"draw up"> = {
  verb: "Draw up",
  says: "a document from a template of the word processor",
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
    called: walk.template({ place: "called", says: "what the file is called" }, s.called),
  }),
  documents: (s) => (s.document ? [s.document] : []),
  pages: (s) => s.as !== "docx",
  steps: (s) => s,
  sets: (s) => (s.into === undefined ? [] : [s.into]),
  gives: (s) => (s.as === "both" ? listOf(FILE) : FILE),
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  enter(turn, s) {
    // What an earlier time came to must not be taken for what this one does.
    turn.keep({ value: null });
    const { template, filled } = turn.document(s.document);
    const called = turn.text("called", s.called).replace(/\s+/g, " ").trim();
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
    turn.keep({ value: s.as === "both" ? { list: all } : (all[0] ?? null) });
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
    work: (w) => ({ ...w, called: "", filled: [] }),
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

/** What of a tag the tree of a document hangs on; what it says has been worked out. */
function placeOf(t: DocumentTag): TreeTag {
  const { tag, piece } = t;
  return t.tag === "picture" && t.mm !== undefined ? { tag, piece, mm: t.mm } : { tag, piece };
}

function problems(s: Step, { definition, say }: StepProblems) {
  if (!s.document)
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
  if (field.kind === "file" && s.as === "both")
    say("error", "one-file", `“${field.name}” keeps one file; a document as DOCX and PDF is two.`, "into", {
      label: `Make “${field.name}” a field for several files`,
      edit: { op: "field.set", id: field.id, patch: { kind: "files" } },
    });
}

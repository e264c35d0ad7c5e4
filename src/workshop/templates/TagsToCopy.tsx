"use client";
import { useMemo, useState } from "react";
import { tagText, type DocumentTemplate, type TagSaid } from "@/core/document";
import { flatFields, type Field } from "@/core/form";
import { checkFormula } from "@/core/expression";
import { formulaPlaces } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";

/** What a field is written as. */
function tagsOf(f: Field): TagSaid[] {
  if (f.kind === "lines") return [{ tag: "each", of: f.name }, { tag: "end" }];
  if (KINDS.fields[f.kind].signs) return [{ tag: "picture", of: f.name, mm: 50 }];
  return f.kind === "yes or no"
    ? [{ tag: "if", of: f.name }, { tag: "end" }]
    : [{ tag: "value", of: f.name }];
}

/** The tags of all fields, to be copied with a press; those no tag reads come first. */
export function TagsToCopy({ template }: { template: DocumentTemplate }) {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const [copied, setCopied] = useState("");
  const rows = useMemo(() => {
    // Of this template alone, and once for all fields: a form may have hundreds.
    const only = { ...definition, route: [], letters: [], starts: [], title: "", documents: [template] };
    const read = new Set<string>();
    for (const p of formulaPlaces(only, { registers, kinds: KINDS }))
      if (p.owner.kind === "document")
        for (const { name } of checkFormula(p.formula, p.scope).reads.references) {
          const meant = p.declared(name);
          if (meant !== null) read.add(meant);
        }
    const isRead = (f: Field): boolean => read.has(`field ${f.id}`) || (f.fields ?? []).some(isRead);
    const fields = flatFields(definition.fields).filter((f) => f.kind !== "text block");
    return fields.map((f) => ({
      field: f,
      read: isRead(f),
      columns: f.kind === "lines" ? flatFields(f.fields ?? []) : [],
    }));
  }, [definition, registers, template]);
  const unread = rows.filter((r) => !r.read);
  const copy = (text: string) =>
    void navigator.clipboard.writeText(text).then(
      () => setCopied(text),
      () => setCopied(""),
    );
  const button = (text: string) => (
    <button
      key={text}
      type="button"
      className="rounded border border-line-strong bg-raised px-1.5 font-mono text-sm hover:border-moss"
      onClick={() => copy(text)}
    >
      {text}
    </button>
  );
  const line = ({ field, columns }: (typeof rows)[number]) => (
    <li key={field.id} className="flex flex-wrap items-center gap-1.5 py-1">
      {tagsOf(field).flatMap((t, i) => [
        ...(i === 1 ? columns.map((c) => button(tagText({ tag: "value", of: c.name }))) : []),
        button(tagText(t)),
      ])}
    </li>
  );
  return (
    <section aria-label="Tags to copy">
      <h2 className="mb-1 !text-base">Tags to copy</h2>
      <p role="status" className="text-sm text-soft">
        {copied
          ? `${copied} is copied: paste it in the word processor where it is to stand.`
          : "A press copies one. Any formula can stand in the braces, as in a field."}
      </p>
      {unread.length > 0 && (
        <>
          <h3 className="mt-2 text-sm text-soft">Read by no tag yet</h3>
          <ul>{unread.map(line)}</ul>
        </>
      )}
      {unread.length < rows.length && (
        <>
          <h3 className="mt-2 text-sm text-soft">Read already</h3>
          <ul>{rows.filter((r) => r.read).map(line)}</ul>
        </>
      )}
    </section>
  );
}

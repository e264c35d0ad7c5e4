"use client";
import Link from "next/link";
import { useRef, useState } from "react";
import type { DocumentTag, DocumentTemplate, FirstOf } from "@/core/document";
import { ANY, checkFormula, FILE, listOf, YESNO, type Scope, type Type } from "@/core/expression";
import { flatFields } from "@/core/form";
import { documentsUsed, placesOf, tagPlace } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Detail } from "../parts/Detail";
import { ForAll } from "../parts/ForAll";
import { FormulaCell } from "../parts/FormulaCell";
import { TextCell } from "../parts/TextCell";
import { TagsToCopy } from "./TagsToCopy";
import { useTags, useWritten, type TagHere } from "./templateHere";
import { TemplateVersions } from "./TemplateVersions";

/** A template as it is: its file, and every tag with what it says and what that comes to for the sample. */
export function TemplateSheet({
  template,
  first,
  busy,
  onBring,
  onTake,
  onGone,
}: {
  template: DocumentTemplate;
  /** By tag what it came to in the finished document; null while that is made. */
  first: readonly (FirstOf | null)[] | null;
  busy: boolean;
  /** Another version of it. */
  onBring(file: File): void;
  /** What has become of the one kept for all that it was taken from. */
  onTake(kept: { id: string; name: string }): void;
  onGone(): void;
}) {
  const d = useDraft();
  const input = useRef<HTMLInputElement>(null);
  const [versions, setVersions] = useState(false);
  const put = (document: DocumentTemplate) => d.edit({ op: "document.put", after: null, document });
  const problems = d.problemsAt("document", template.id).filter((p) => !p.where.place?.startsWith("tag "));
  const places = placesOf(d.definition, KINDS);
  const makers = documentsUsed(d.definition, KINDS).get(template.id) ?? [];
  const { file, from } = template;
  const kept = d.office.templates.find((k) => k.id === from?.template);
  return (
    <div className="grid gap-3">
      {problems.map((p, i) => (
        <p key={i} className={p.severity === "error" ? "text-brick" : "text-lichen"}>
          {p.message}
        </p>
      ))}
      <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-3 gap-y-2">
        <Detail says="Name" htmlFor="template-name">
          <TextCell
            id="template-name"
            className="input"
            value={template.name}
            onCommit={(t) => (t.trim() ? put({ ...template, name: t.trim() }) : false)}
          />
        </Detail>
        <Detail says="Drawn up">
          <p>
            {makers.length === 0 && <span className="text-soft">by no step yet</span>}
            {makers.map((id, i) => (
              <span key={id}>
                {i > 0 && ", "}
                <Link className="link" href={`/workshop/${d.definition.key}/route#step-${id}`}>
                  {places.get(id)?.number} {places.get(id)?.step.name}
                </Link>
              </span>
            ))}
          </p>
        </Detail>
        <Detail says="File">
          <div>
            <p className="break-words">
              {file.name} <span className="text-soft">({Math.max(1, Math.round(file.size / 1000))} KB)</span>
            </p>
            <p className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
              <a className="link" href={d.documents.fileAt(template.id)} download={file.name}>
                Save it to change it
              </a>
              <button type="button" className="link" disabled={busy} onClick={() => input.current?.click()}>
                Bring in another version…
              </button>
              <button
                type="button"
                className="link"
                aria-expanded={versions}
                onClick={() => setVersions(!versions)}
              >
                Versions
              </button>
              <ForAll
                name={template.name}
                taken={from !== undefined}
                newer={
                  kept && from && kept.version > from.version ? "The one for all has changed: take it" : null
                }
                busy={busy}
                keep={() => d.documents.keepForAll(template.id)}
                onKept={(of) => void put({ ...template, from: of })}
                onTake={() => kept && onTake(kept)}
              />
            </p>
            <p className="text-sm text-soft">What is saved has its tags as they read below.</p>
            <input
              ref={input}
              type="file"
              className="sr-only"
              tabIndex={-1}
              aria-label={`Another version of ${template.name}`}
              accept=".docx"
              onChange={(e) => {
                const next = e.target.files?.[0];
                e.target.value = "";
                if (next) onBring(next);
              }}
            />
            {versions && (
              <TemplateVersions template={template} onPick={(v) => void put({ ...template, ...v })} />
            )}
          </div>
        </Detail>
      </div>
      <TagRows template={template} served={first} put={put} />
      <TagsToCopy template={template} />
      <p>
        <Button
          small
          look="quiet"
          className="!text-brick"
          onClick={() => {
            if (d.edit({ op: "document.remove", id: template.id })) onGone();
          }}
        >
          Take this template away
        </Button>
      </p>
    </div>
  );
}

/** What the kind of a tag is called on the sheet. */
const SAYS: Readonly<Record<DocumentTag["tag"], string>> = {
  value: "value",
  picture: "picture",
  each: "for each",
  if: "if",
  otherwise: "otherwise",
  end: "end",
};
const WANTED: Readonly<Record<"value" | "picture" | "each" | "if", Type>> = {
  value: ANY,
  picture: FILE,
  each: listOf(ANY),
  if: YESNO,
};
/** In the header and footer of every page. */
const IN: Readonly<Record<DocumentTag["in"], string>> = {
  text: "",
  header: "in the header, ",
  footer: "in the footer, ",
};

function TagRows({
  template,
  served,
  put,
}: {
  template: DocumentTemplate;
  served: readonly (FirstOf | null)[] | null;
  put(t: DocumentTemplate): boolean;
}) {
  const tags = useTags(template);
  const written = useWritten(template);
  // Until the finished document has come: as the sample begins, before any step.
  const first = served ?? (written && "first" in written ? written.first : null);
  if (tags.length === 0)
    return (
      <p className="max-w-prose text-soft">
        No tags stand in this file yet. Copy one from below, write it where its value is to stand, and bring
        the file in again.
      </p>
    );
  return (
    <section aria-label="Tags">
      <h2 className="mb-1 !text-base">Tags</h2>
      {!served && written && "why" in written && (
        <p role="status" className="mb-1 text-brick">
          {written.why}
        </p>
      )}
      <table className="w-full table-fixed">
        <thead>
          <tr className="text-left text-sm text-soft">
            <th scope="col" className="w-[6.5rem] font-normal">
              Tag
            </th>
            <th scope="col" className="font-normal">
              What it says
            </th>
            <th scope="col" className="w-[32%] pl-3 font-normal">
              For the sample
            </th>
          </tr>
        </thead>
        <tbody>
          {tags.map((t) => (
            <TagRow key={t.at} here={t} first={first?.[t.at] ?? null} template={template} put={put} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function TagRow({
  here: { at, tag, scope, deep },
  first,
  template,
  put,
}: {
  here: TagHere;
  first: FirstOf | null;
  template: DocumentTemplate;
  put(t: DocumentTemplate): boolean;
}) {
  const d = useDraft();
  const problems = d
    .problemsAt("document", template.id)
    // A mistake inside a formula is told with its mend.
    .filter((p) => p.where.place === tagPlace(at) && !p.formula);
  const set = (of: string) =>
    void put({ ...template, tags: template.tags.with(at, { ...tag, of: of.trim() } as DocumentTag) });
  return (
    <tr className="border-t border-line align-baseline" title={`${IN[tag.in]}at “${tag.near}”`}>
      <td className="py-1 text-soft" style={{ paddingLeft: `${deep * 0.9}rem` }}>
        {SAYS[tag.tag]}
      </td>
      <td className="py-0.5">
        {"of" in tag && (
          <div className="flex items-baseline gap-2">
            <div className="min-w-0 flex-1">
              <FormulaCell
                label={`Formula of tag ${at + 1}`}
                value={tag.of}
                scope={scope}
                names={null}
                wanted={WANTED[tag.tag]}
                onCommit={set}
              />
            </div>
            {tag.tag === "picture" && tag.mm !== undefined && (
              <span className="text-sm text-soft">{tag.mm} mm wide</span>
            )}
          </div>
        )}
        {"of" in tag && tag.of && <Mistakes of={tag.of} scope={scope} wanted={WANTED[tag.tag]} set={set} />}
        {problems.map((p, i) => (
          <p key={i} className={p.severity === "error" ? "text-sm text-brick" : "text-sm text-lichen"}>
            {p.message}
          </p>
        ))}
      </td>
      <td className="truncate py-1 pl-3">
        {first && ("why" in first ? <span className="text-brick">{first.why}</span> : <Said {...first} />)}
      </td>
    </tr>
  );
}

/** What is wrong with the formula of a tag, each with what would mend it. */
function Mistakes({
  of,
  scope,
  wanted,
  set,
}: {
  of: string;
  scope: Scope;
  wanted: Type;
  set(of: string): void;
}) {
  const fields = useDraft((d) => d.definition.fields);
  return checkFormula(of, scope, wanted).problems.map((p, i) => {
    const name = of.slice(p.from, p.to);
    const lines =
      p.code === "unknown-name"
        ? flatFields(fields).find((f) => f.kind === "lines" && f.fields?.some((c) => c.name === name))
        : undefined;
    return (
      <p key={i} className="text-sm text-brick">
        {p.message}
        {lines &&
          ` It is a column of “${lines.name}”, and stands between {for each ${lines.name}} and {end}.`}{" "}
        {p.mend && (
          <button
            type="button"
            className="underline"
            onClick={() => set(of.slice(0, p.from) + p.mend!.insert + of.slice(p.to))}
          >
            {p.mend.label}
          </button>
        )}
      </p>
    );
  });
}

/** What a tag came to, and how often it stands there. */
function Said({ said, times }: { said: string; times: number }) {
  return (
    <>
      {said || <span className="text-soft">nothing</span>}
      {times > 1 && <span className="text-soft"> and {times - 1} more</span>}
    </>
  );
}

"use client";
import { useEffect, useState } from "react";
import type { DocumentTag, DocumentTemplate, TemplateFile } from "@/core/document";
import { whenText } from "@/ui";
import type { VersionShown } from "../draft/draft";
import { useDraft } from "../draft/DraftProvider";

/** The files that were brought in as a template; any of them can be the template again. */
export function TemplateVersions({
  template,
  onPick,
}: {
  template: DocumentTemplate;
  onPick(v: { file: TemplateFile; tags: DocumentTag[] }): void;
}) {
  const documents = useDraft((d) => d.documents);
  const zone = useDraft((d) => d.facts.calendar(d.definition.calendar).zone);
  const [all, setAll] = useState<readonly VersionShown[] | null>(null);
  const [wrong, setWrong] = useState("");
  const { id, file } = template;
  useEffect(() => {
    let here = true;
    void documents.versions(id).then((r) => {
      if (!here) return;
      if (r.ok) setAll(r.value);
      else setWrong(r.sentence);
    });
    return () => {
      here = false;
    };
  }, [documents, id, file.sha256]);
  if (wrong)
    return (
      <p role="alert" className="text-brick">
        {wrong}
      </p>
    );
  if (!all)
    return (
      <p role="status" className="text-soft">
        Being looked up…
      </p>
    );
  if (all.length === 0)
    return <p className="text-soft">None was brought in here: it came with a definition from elsewhere.</p>;
  return (
    <ul aria-label="Versions" className="mt-1">
      {all.map((v) => (
        <li key={v.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-line py-1 text-sm">
          <span>{whenText(v.at, zone)}</span>
          <span className="text-soft">{v.by ?? "made here"}</span>
          <span className="min-w-0 flex-1 truncate">{v.file.name}</span>
          {v.file.sha256 === file.sha256 ? (
            <span className="text-soft">this one</span>
          ) : (
            <button
              type="button"
              className="link"
              onClick={() => onPick({ file: v.file, tags: [...v.tags] })}
            >
              Take it again
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

"use client";
import { Suspense, useEffect, useState } from "react";
import type { DocumentTemplate } from "@/core/document";
import { PdfPages } from "@/forms";
import { useDraft } from "../draft/DraftProvider";

/** Milliseconds without a change after which the pages are made anew. */
const REST_MS = 400;

type Shown = { pages: ArrayBuffer } | { why: string };

/** The finished document for the chosen sample, page by page; made anew a moment after whatever it hangs on has changed. */
export function TemplatePages({ template }: { template: DocumentTemplate }) {
  const { documents, definition, sample } = useDraft();
  const [shown, setShown] = useState<Shown | null>(null);
  const [busy, setBusy] = useState(true);
  const [again, setAgain] = useState(0);
  const { id } = template;
  const who = sample?.id ?? "";
  useEffect(() => {
    let here = true;
    setBusy(true);
    const timer = setTimeout(() => {
      void documents.pages(id, who).then((r) => {
        if (!here) return;
        setBusy(false);
        setShown(r.ok ? { pages: r.value } : { why: r.sentence });
      });
    }, REST_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [documents, definition, id, who, again]);
  return (
    <section aria-label="The finished document" className="pl-4">
      <p role="status" className="mb-2 flex min-h-6 flex-wrap items-baseline gap-x-4 text-sm text-soft">
        <span>
          {busy && shown && "Being made anew…"}
          {busy && !shown && "The pages are being made…"}
          {!busy && (sample ? `For “${sample.name}”` : "Without a sample: keep one on the form sheet")}
        </span>
        {!busy && (
          <button type="button" className="link" onClick={() => setAgain((n) => n + 1)}>
            Make it anew
          </button>
        )}
        <a className="link" href={documents.docxAt(id, who)} download>
          As DOCX
        </a>
      </p>
      {shown && "why" in shown && (
        <p role="alert" className="text-brick">
          It cannot be drawn up: {shown.why}
        </p>
      )}
      {shown && "pages" in shown && (
        <div className="max-h-[calc(100vh-16rem)] overflow-auto pr-2">
          <Suspense fallback={null}>
            <PdfPages at={shown.pages} />
          </Suspense>
        </div>
      )}
    </section>
  );
}

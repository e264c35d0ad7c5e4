"use client";
import { Suspense, useEffect, useState } from "react";
import type { DocumentTemplate } from "@/core/document";
import { PdfPages } from "@/forms";
import type { DocumentShown } from "../draft/draft";
import { useDraft } from "../draft/DraftProvider";

type Shown = DocumentShown | { why: string };

/** What is shown of the finished document; null until the first has come. */
export interface PagesNow {
  shown: Shown | null;
  busy: boolean;
  again(): void;
}

/** Milliseconds without a change after which the pages are made anew. */
const REST_MS = 400;

/** The finished document of a template for the chosen sample; made anew a moment after whatever it hangs on has changed. */
export function usePages(id: string | undefined): PagesNow {
  const { documents, definition, sample } = useDraft();
  const [came, setCame] = useState<{ of: string | undefined; shown: Shown } | null>(null);
  const [busy, setBusy] = useState(true);
  const [again, setAgain] = useState(0);
  const who = sample?.id ?? "";
  useEffect(() => {
    if (id === undefined) return;
    let here = true;
    setBusy(true);
    const timer = setTimeout(() => {
      void documents.pages(id, who).then((r) => {
        if (!here) return;
        setBusy(false);
        setCame({ of: id, shown: r.ok ? r.value : { why: r.sentence } });
      });
    }, REST_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [documents, definition, id, who, again]);
  return { shown: came && came.of === id ? came.shown : null, busy, again: () => setAgain((n) => n + 1) };
}

/** The finished document for the chosen sample, page by page. */
export function TemplatePages({
  template: { id },
  now: { shown, busy, again },
}: {
  template: DocumentTemplate;
  now: PagesNow;
}) {
  const { documents, sample } = useDraft();
  const who = sample?.id ?? "";
  return (
    <section aria-label="The finished document" className="pl-4">
      <p role="status" className="mb-2 flex min-h-6 flex-wrap items-baseline gap-x-4 text-sm text-soft">
        <span>
          {busy && shown && "Being made anew…"}
          {busy && !shown && "The pages are being made…"}
          {!busy && (sample ? `For “${sample.name}”` : "Without a sample: keep one on the form sheet")}
        </span>
        {!busy && (
          <button type="button" className="link" onClick={again}>
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
        <div
          role="group"
          aria-label="Pages"
          // By keyboard it is scrolled once it has the focus.
          tabIndex={0}
          className="max-h-[calc(100vh-16rem)] overflow-auto pr-2"
        >
          <Suspense fallback={null}>
            <PdfPages at={shown.pages} />
          </Suspense>
        </div>
      )}
    </section>
  );
}

"use client";
import { useEffect, useRef, useState } from "react";
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from "pdfjs-dist";

// Reading and drawing a PDF is work for a thread of its own.
GlobalWorkerOptions.workerSrc = new URL("pdfjs-dist/build/pdf.worker.min.mjs", import.meta.url).toString();

/** Pages that are offered; whoever wants more saves the file. */
const MOST_PAGES = 300;
/** Pixels of one page: a page as large as a wall is drawn coarser. */
const MOST_PIXELS = 8_000_000;

type Opened = { pdf: PDFDocumentProxy; shape: number } | { why: string };

/**
 * The pages of a PDF below each other, each drawn as it comes into sight, with its text for whoever reads by ear.
 * @param at where it is read, or what is in it
 */
export default function PdfPages({ at }: { at: string | ArrayBuffer }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  useEffect(() => {
    // Formulas in a PDF are not run, and it fetches nothing.
    const from = typeof at === "string" ? { url: at } : { data: new Uint8Array(at.slice(0)) };
    const task = getDocument({ ...from, isEvalSupported: false, disableAutoFetch: true });
    let left = false;
    void task.promise.then(
      async (pdf) => {
        const { width, height } = (await pdf.getPage(1)).getViewport({ scale: 1 });
        if (!left) setOpened({ pdf, shape: width / height });
      },
      (e: unknown) => {
        if (!left) setOpened({ why: whyNot(e) });
      },
    );
    return () => {
      left = true;
      void task.destroy();
    };
  }, [at]);
  if (!opened)
    return (
      <p role="status" className="text-soft">
        Being opened…
      </p>
    );
  if ("why" in opened)
    return (
      <p role="alert" className="text-brick">
        {opened.why}
      </p>
    );
  const { pdf, shape } = opened;
  const shown = Math.min(pdf.numPages, MOST_PAGES);
  return (
    <div>
      {Array.from({ length: shown }, (_, i) => (
        <PdfPage key={i} pdf={pdf} number={i + 1} shape={shape} />
      ))}
      {shown < pdf.numPages && (
        <p className="text-soft">
          These are the first {shown} of {pdf.numPages} pages. Save the file to see the others.
        </p>
      )}
    </div>
  );
}

function whyNot(e: unknown): string {
  const name = e instanceof Error ? e.name : "";
  if (name === "PasswordException") return "This PDF asks for a password. Save it to open it.";
  if (name === "InvalidPDFException")
    return "This file is called a PDF and is none. Save it to look into it.";
  return "This PDF cannot be shown here. Save it to open it.";
}

/** @param shape width by height, until the page's own is known */
function PdfPage({ pdf, number, shape }: { pdf: PDFDocumentProxy; number: number; shape: number }) {
  const holder = useRef<HTMLElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [text, setText] = useState<string | null>(null);
  const [bad, setBad] = useState(false);
  useEffect(() => {
    const place = holder.current;
    if (!place) return;
    let stop = () => undefined as void;
    let left = false;
    const draw = async () => {
      const page = await pdf.getPage(number);
      const on = canvas.current;
      if (!on || left) return;
      const own = page.getViewport({ scale: 1 });
      const wide = (place.clientWidth / own.width) * Math.min(window.devicePixelRatio, 2);
      const scale = Math.min(wide, Math.sqrt(MOST_PIXELS / (own.width * own.height)));
      const viewport = page.getViewport({ scale });
      [on.width, on.height] = [Math.floor(viewport.width), Math.floor(viewport.height)];
      on.style.aspectRatio = String(own.width / own.height);
      const drawing = page.render({ canvasContext: on.getContext("2d")!, viewport });
      stop = () => drawing.cancel();
      await drawing.promise;
      const { items } = await page.getTextContent();
      if (!left) setText(items.map((x) => ("str" in x ? x.str : "")).join(" "));
    };
    const seen = new IntersectionObserver(
      ([entry]) => {
        if (!entry?.isIntersecting) return;
        seen.disconnect();
        draw().catch(() => !left && setBad(true));
      },
      { rootMargin: "600px" },
    );
    seen.observe(place);
    return () => {
      left = true;
      seen.disconnect();
      stop();
    };
  }, [pdf, number]);
  return (
    <section ref={holder} aria-label={`Page ${number} of ${pdf.numPages}`} className="mb-3">
      <canvas
        ref={canvas}
        aria-hidden
        className="w-full border border-line bg-white"
        style={{ aspectRatio: shape }}
      />
      <p className="sr-only">{text}</p>
      <p className="text-right text-sm text-soft">
        {bad && <span className="text-brick">This page cannot be drawn. </span>}
        {number} of {pdf.numPages}
      </p>
    </section>
  );
}

"use client";
import { Suspense } from "react";
import { PdfPages } from "@/forms";
import type { FileFacts } from "@/core/form";
import { sizeText } from "@/ui";

/** The pages of what is signed with the form below, from where its reader may have them. They are drawn as they come into sight; on paper they are saved. */
export function Paper({ file, at }: { file: Pick<FileFacts, "name" | "size">; at: string }) {
  return (
    <section aria-labelledby="paper" className="mb-6">
      <h2 id="paper" className="mb-1">
        What you sign
      </h2>
      <p className="mb-2 text-soft">
        Read these pages, then sign in the form below. Your signature is put into its place in them, and they
        are kept as they stand here.{" "}
        <a className="link" href={at} download={file.name}>
          {file.name}
        </a>{" "}
        <span className="text-sm whitespace-nowrap">{sizeText(file.size)}</span>
      </p>
      <div
        role="region"
        aria-label={`Pages of ${file.name}`}
        tabIndex={0}
        className="relative max-h-[70vh] overflow-y-auto border border-line bg-ground p-3 print:hidden"
      >
        <Suspense
          fallback={
            <p role="status" className="text-soft">
              Being opened…
            </p>
          }
        >
          <PdfPages at={at} />
        </Suspense>
      </div>
    </section>
  );
}

"use client";
import { useState } from "react";
import type { FileFacts } from "@/core/form";
import { Dialog } from "@/ui";
import { LazyPdfPages } from "./LazyPdfPages";

/** A picture or a PDF, over the page. */
export default function FilePreview({
  file,
  looks,
  at,
  onClose,
}: {
  file: Pick<FileFacts, "name">;
  looks: "picture" | "pdf";
  /** Where it is read. */
  at: string;
  onClose(): void;
}) {
  const [bad, setBad] = useState(false);
  return (
    <Dialog open wide title={file.name} onOpenChange={(open) => !open && onClose()}>
      <p className="sticky -top-5 z-10 -mt-2 mb-2 flex gap-5 bg-sheet py-2">
        <a className="link" href={at} download={file.name}>
          Save it
        </a>
        <button type="button" className="link" onClick={onClose}>
          Close
        </button>
      </p>
      {looks === "pdf" && <LazyPdfPages at={at} />}
      {looks === "picture" &&
        (bad ? (
          <p role="alert" className="text-brick">
            This picture cannot be shown here. Save it to open it.
          </p>
        ) : (
          <img
            src={at}
            alt={file.name}
            className="mx-auto max-h-[68vh] max-w-full object-contain"
            onError={() => setBad(true)}
          />
        ))}
    </Dialog>
  );
}

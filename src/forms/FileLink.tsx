"use client";
import type { FileFacts } from "@/core/form";
import { sizeText } from "@/ui";
import { readAt, useFilesAt } from "./filesAt";

/** A file by its name, to be saved, with its size. */
export function FileLink({ file }: { file: FileFacts }) {
  const at = useFilesAt();
  return (
    <span className="min-w-0 [overflow-wrap:anywhere]">
      <a className="link" href={readAt(at, file.id)} download={file.name}>
        {file.name}
      </a>{" "}
      <span className="text-sm whitespace-nowrap text-soft">{sizeText(file.size)}</span>
    </span>
  );
}

"use client";
import { Eye, FileText } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { looksLike, type FileFacts } from "@/core/form";
import { sizeText } from "@/ui";
import { readAt, readSmallAt, useFilesAt } from "./filesAt";

/** Loaded where somebody looks. */
const FilePreview = lazy(() => import("./FilePreview"));

type Shown = Pick<FileFacts, "id" | "name" | "size" | "type">;

/**
 * A file by its name, to be saved, with its size; a picture or a PDF can be looked at here, too.
 * @param inList stands under others, whose names begin at one place
 */
export function FileLink({ file, inList = false }: { file: Shown; inList?: boolean }) {
  const at = useFilesAt();
  const [open, setOpen] = useState(false);
  const [small, setSmall] = useState(true);
  const looks = looksLike(file.type);
  return (
    <span className="inline-flex min-w-0 items-center gap-x-2">
      {looks && (
        <button
          type="button"
          aria-label={`Look at ${file.name}`}
          title="Look at it"
          className="grid size-[34px] shrink-0 place-items-center overflow-hidden rounded border border-line text-soft hover:border-line-strong hover:text-ink max-sm:size-11"
          onClick={() => setOpen(true)}
        >
          {looks === "picture" && small ? (
            <img
              src={readSmallAt(at, file.id)}
              alt=""
              loading="lazy"
              decoding="async"
              className="size-full object-cover"
              onError={() => setSmall(false)}
            />
          ) : (
            <Eye size={16} aria-hidden />
          )}
        </button>
      )}
      {!looks && inList && (
        <span className="grid size-[34px] shrink-0 place-items-center text-faint max-sm:size-11">
          <FileText size={16} aria-hidden />
        </span>
      )}
      <span className="min-w-0 [overflow-wrap:anywhere]">
        <a className="link" href={readAt(at, file.id)} download={file.name}>
          {file.name}
        </a>{" "}
        <span className="text-sm whitespace-nowrap text-soft">{sizeText(file.size)}</span>
      </span>
      {open && looks && (
        <Suspense fallback={null}>
          <FilePreview file={file} looks={looks} at={readAt(at, file.id)} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </span>
  );
}

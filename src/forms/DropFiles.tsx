"use client";
import { useState, type ReactNode } from "react";
import { Button, classes } from "@/ui";
import type { UnderWay } from "./useSendFiles";

/** A place files can be dropped on. */
export function DropFiles({
  id,
  onDrop,
  children,
}: {
  id: string;
  onDrop(files: File[]): void;
  children: ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={classes("rounded", over && "outline outline-2 outline-offset-2 outline-focus")}
      data-file={id}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        onDrop([...e.dataTransfer.files]);
      }}
    >
      {children}
    </div>
  );
}

/** One file on its way, and how to stop it. */
export const SendingRow = ({ file, onStop }: { file: UnderWay; onStop(): void }) => (
  <div className="flex min-h-[34px] items-center gap-2 text-sm">
    <progress
      className="h-1.5 w-24 accent-[var(--moss)]"
      value={file.share ?? 0}
      aria-label={`Sending ${file.name}`}
    />
    <span className="min-w-0 truncate text-soft">
      {file.name}
      {file.share === null && ", waiting"}
    </span>
    <Button small look="quiet" onClick={onStop} aria-label={`Stop sending ${file.name}`}>
      Stop
    </Button>
  </div>
);

/** What went wrong with files, said where they are chosen. */
export const SaidOfFiles = ({ said }: { said: readonly string[] }) => (
  <div role="status" className="text-sm text-brick">
    {said.map((s, i) => (
      <p key={i}>{s}</p>
    ))}
  </div>
);

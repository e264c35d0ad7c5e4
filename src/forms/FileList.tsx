"use client";
import type { FactsData } from "@/core/form";
import { FileLink } from "./FileLink";

/** Files to be read: one by itself, several below each other. */
export function FileList({ ids, facts }: { ids: readonly string[]; facts: Pick<FactsData, "files"> }) {
  const one = (id: string) => {
    const file = facts.files?.[id];
    return file ? (
      <FileLink file={file} inList={ids.length > 1} />
    ) : (
      <span className="text-soft">a file that is not there any more</span>
    );
  };
  if (ids.length === 1) return one(ids[0]!);
  return (
    <ul className="grid gap-y-1">
      {ids.map((id) => (
        <li key={id}>{one(id)}</li>
      ))}
    </ul>
  );
}

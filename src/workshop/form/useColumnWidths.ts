"use client";
import { useCallback, useState } from "react";
import { useSaveQueue } from "@/ui";
import { readWidths, type ColumnId, type ColumnWidths } from "./sheetColumns";

/** How wide somebody drew the columns, for all processes, and where that is kept with them. */
export interface KeptWidths {
  kept: Readonly<Record<string, unknown>>;
  keep(widths: Readonly<Record<string, number>>): Promise<unknown>;
}

/** An edge that is drawn passes many widths. */
const WAIT_MS = 400;
const RETRY_MS = 10_000;

/** The widths of the columns, and how one is drawn; null takes a width back. */
export function useColumnWidths(
  theirs?: KeptWidths,
): [ColumnWidths, (id: ColumnId, px: number | null) => void] {
  const [widths, setWidths] = useState(() => readWidths(theirs?.kept ?? {}));
  const queue = useSaveQueue<ColumnWidths>({
    waitMs: WAIT_MS,
    retryMs: RETRY_MS,
    leaving: "overtake",
    join: (_, last) => last,
    async save(last) {
      await theirs?.keep({ ...last });
      return "saved";
    },
  });
  const set = useCallback(
    (id: ColumnId, px: number | null) => {
      const { [id]: _, ...others } = widths;
      const next = px === null ? others : { ...others, [id]: px };
      setWidths(next);
      queue.add(next);
    },
    [widths, queue],
  );
  return [widths, set];
}

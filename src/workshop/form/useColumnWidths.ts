"use client";
import { useCallback, useEffect, useState } from "react";
import { readWidths, type ColumnId, type ColumnWidths } from "./sheetColumns";

const KEPT = "cobble-step form sheet widths";

/** How wide somebody drew the columns, for all processes; kept in their browser. Null takes a width back. */
export function useColumnWidths(): [ColumnWidths, (id: ColumnId, px: number | null) => void] {
  const [widths, setWidths] = useState<ColumnWidths>({});
  // After the page has come alive: the server knows nothing of them.
  useEffect(() => {
    try {
      setWidths(readWidths(localStorage.getItem(KEPT)));
    } catch {
      // A browser that keeps nothing shows them as they are for all.
    }
  }, []);
  const set = useCallback((id: ColumnId, px: number | null) => {
    setWidths((now) => {
      const { [id]: _, ...others } = now;
      const next = px === null ? others : { ...others, [id]: px };
      try {
        localStorage.setItem(KEPT, JSON.stringify(next));
      } catch {
        // As above.
      }
      return next;
    });
  }, []);
  return [widths, set];
}

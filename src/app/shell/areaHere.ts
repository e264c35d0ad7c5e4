"use client";
import { useEffect, useSyncExternalStore } from "react";

/** Where a page belongs whose address does not tell: a request is one's own, or one watches it, or one has a task of it. */
type Area = "/ask" | "/desk" | "/progress";

let area: Area | null = null;
const listeners = new Set<() => void>();
const put = (to: Area | null) => {
  area = to;
  for (const l of listeners) l();
};
const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => void listeners.delete(l);
};

export const useAreaHere = (): Area | null =>
  useSyncExternalStore(
    subscribe,
    () => area,
    () => null,
  );

/** Says so for as long as the page is shown. */
export function AreaHere({ area: here }: { area: Area }): null {
  useEffect(() => {
    put(here);
    return () => put(null);
  }, [here]);
  return null;
}

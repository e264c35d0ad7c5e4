"use client";
import { lazy, Suspense, useEffect, useState } from "react";
import { onSaid, type Said } from "./say";

const Toasts = lazy(() => import("./Toasts"));

/** Where `say` is heard. Stands in the frame of all pages, so that what is said outlives the page that said it. */
export function Sayings() {
  const [said, setSaid] = useState<Said[] | null>(null);
  useEffect(() => onSaid((s) => setSaid((all) => [...(all ?? []), s])), []);
  return said ? (
    <Suspense>
      <Toasts said={said} onShown={(n) => setSaid((all) => (all ?? []).slice(n))} />
    </Suspense>
  ) : null;
}

"use client";
import { useEffect, useRef, useState } from "react";
import type { FormData } from "@/core/form";

interface OpenDraft {
  /** What says to the server that it is the same browser; made here, and known to nobody else. */
  visit: string;
  name: string;
  email: string;
  data: FormData;
}

const isDraft = (x: unknown): x is OpenDraft => {
  const d = x as Partial<Record<keyof OpenDraft, unknown>> | null;
  return (
    typeof d === "object" &&
    d !== null &&
    typeof d.visit === "string" &&
    /^[\w-]{43}$/.test(d.visit) &&
    typeof d.name === "string" &&
    typeof d.email === "string" &&
    typeof d.data === "object" &&
    d.data !== null
  );
};

const placeOf = (process: string): string => `open ${process}`;

function newVisit(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(32));
  return btoa(String.fromCharCode(...bytes))
    .replaceAll("+", "-")
    .replaceAll("/", "_")
    .replace(/=+$/, "");
}

function kept(process: string): OpenDraft | null {
  try {
    const was: unknown = JSON.parse(localStorage.getItem(placeOf(process)) ?? "null");
    return isDraft(was) ? was : null;
  } catch {
    return null;
  }
}

/**
 * What somebody types into a public form, kept in their browser alone until they send it: nothing of it is anywhere else.
 * @returns null until the page has come alive
 */
export function useOpenDraft(
  process: string,
  begins: FormData,
): {
  now: OpenDraft | null;
  /** Whether it was there before this page was opened. */
  before: boolean;
  put(change: Partial<Omit<OpenDraft, "visit">>): void;
  /** Begins anew, once it is sent or thrown away. */
  clear(): OpenDraft;
} {
  const [now, setNow] = useState<OpenDraft | null>(null);
  const [before, setBefore] = useState(false);
  const first = useRef(begins);
  useEffect(() => {
    const was = kept(process);
    setBefore(was !== null);
    setNow(was ?? { visit: newVisit(), name: "", email: "", data: first.current });
  }, [process]);
  const keep = (next: OpenDraft) => {
    setNow(next);
    try {
      localStorage.setItem(placeOf(process), JSON.stringify(next));
    } catch {
      // A browser that keeps nothing loses it with the page, and nothing else.
    }
  };
  return {
    now,
    before,
    put: (change) => now && keep({ ...now, ...change }),
    clear() {
      try {
        localStorage.removeItem(placeOf(process));
      } catch {
        // Nothing was kept.
      }
      const next = { visit: newVisit(), name: "", email: "", data: first.current };
      setNow(next);
      setBefore(false);
      return next;
    },
  };
}

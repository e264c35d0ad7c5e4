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

const blank = (data: FormData): OpenDraft => ({ visit: newVisit(), name: "", email: "", data });

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
  clear(): void;
} {
  const [now, setNow] = useState<OpenDraft | null>(null);
  const [before, setBefore] = useState(false);
  const first = useRef(begins);
  // What is there by now, and not when a page was drawn: a browser that fills in name and address does so at once.
  const latest = useRef<OpenDraft | null>(null);
  const set = (next: OpenDraft) => {
    latest.current = next;
    setNow(next);
  };
  useEffect(() => {
    const was = kept(process);
    setBefore(was !== null);
    latest.current = was ?? blank(first.current);
    setNow(latest.current);
  }, [process]);
  const keep = (next: OpenDraft) => {
    set(next);
    try {
      localStorage.setItem(placeOf(process), JSON.stringify(next));
    } catch {
      // A browser that keeps nothing loses it with the page, and nothing else.
    }
  };
  return {
    now,
    before,
    put: (change) => latest.current && keep({ ...latest.current, ...change }),
    clear() {
      try {
        localStorage.removeItem(placeOf(process));
      } catch {
        // Nothing was kept.
      }
      set(blank(first.current));
      setBefore(false);
    },
  };
}

"use client";
import { useCallback, useEffect, useRef, useState } from "react";

const WAIT_MS = 700;

/**
 * Keeps what somebody types on the server, shortly after they pause; tries again when that fails, and once
 * more when the page is left.
 */
export function useKept<T>(
  value: T,
  save: (value: T) => Promise<{ ok: boolean; sentence?: string }>,
): { sentence: string; stop(): void } {
  const [sentence, setSentence] = useState("");
  const first = useRef(value);
  const latest = useRef(value);
  const saved = useRef(value);
  const stopped = useRef(false);
  const saving = useRef(save);
  saving.current = save;
  latest.current = value;
  const under = useRef(false);
  const keep = useCallback(async (leaving = false): Promise<void> => {
    const now = latest.current;
    if (stopped.current || now === saved.current) return;
    // One after the other: an older text that arrives later would replace the newer one. A page that goes away
    // cannot wait, though.
    if (under.current && !leaving) return;
    under.current = true;
    setSentence("Keeping…");
    const r = await saving.current(now).catch(() => ({ ok: false, sentence: "" }));
    under.current = false;
    if (r.ok) {
      saved.current = now;
      setSentence("Kept. You can leave and come back.");
      if (latest.current !== now) await keep();
    } else setSentence(r.sentence || "Not kept yet: the server cannot be reached. It is tried again.");
  }, []);
  useEffect(() => {
    if (value === first.current && saved.current === first.current) return;
    const timer = setTimeout(() => void keep(), WAIT_MS);
    return () => clearTimeout(timer);
  }, [value, keep]);
  useEffect(() => {
    const again = setInterval(() => void keep(), 8000);
    const leave = () => void keep(true);
    window.addEventListener("pagehide", leave);
    return () => {
      clearInterval(again);
      window.removeEventListener("pagehide", leave);
      void keep();
    };
  }, [keep]);
  return { sentence, stop: () => void (stopped.current = true) };
}

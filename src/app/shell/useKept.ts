"use client";
import { useEffect, useRef, useState } from "react";
import { useSaveQueue } from "@/ui";

const UNREACHED = "Not kept yet: the server cannot be reached. It is tried again.";

/** Keeps what somebody types on the server, and says in a sentence how far that is. */
export function useKept<T>(
  value: T,
  save: (value: T) => Promise<{ ok: boolean; sentence?: string }>,
): { sentence: string; stop(): void } {
  const [sentence, setSentence] = useState("");
  const queue = useSaveQueue<T>({
    waitMs: 700,
    retryMs: 8000,
    leaving: "overtake",
    join: (_, later) => later,
    async save(typed) {
      setSentence("Keeping…");
      const r = await save(typed).catch(() => ({ ok: false, sentence: UNREACHED }));
      setSentence(r.ok ? "Kept. You can leave and come back." : r.sentence || UNREACHED);
      return r.ok ? "saved" : "later";
    },
  });
  const known = useRef(value);
  useEffect(() => {
    if (value !== known.current) {
      // What was kept before is not what is typed now.
      setSentence("Keeping…");
      queue.add(value);
    }
    known.current = value;
  }, [value, queue]);
  return { sentence, stop: () => queue.stop() };
}

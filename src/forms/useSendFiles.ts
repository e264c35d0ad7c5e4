"use client";
import { useEffect, useRef, useState } from "react";
import type { FileFacts } from "@/core/form";
import { useFilesAt } from "./filesAt";
import type { InputContext } from "./inputContext";
import { sendFile, type Sending } from "./sendFile";

/** A file on its way, or waiting for those before it. */
export interface UnderWay {
  key: number;
  name: string;
  size: number;
  /** How much of it has gone, from 0 to 1; null while it waits. */
  share: number | null;
}

/**
 * Sends files one after the other; the form waits for all of them.
 * @param onSent a file that has arrived; whoever calls it last, not first, because people type meanwhile
 */
export function useSendFiles(
  { busy, learnFile }: Pick<InputContext, "busy" | "learnFile">,
  onSent: (file: FileFacts) => void,
) {
  const at = useFilesAt();
  const [under, setUnder] = useState<UnderWay[]>([]);
  const [said, say] = useState<string[]>([]);
  const stopped = useRef(new Set<number>());
  const going = useRef<{ key: number; by: Sending } | null>(null);
  /** The end of the one before; null where none is. */
  const last = useRef<Promise<void> | null>(null);
  const next = useRef(0);
  const sent = useRef(onSent);
  useEffect(() => {
    sent.current = onSent;
  });
  // A field that goes away takes what is on its way with it, and what waits.
  const gone = useRef(false);
  useEffect(() => {
    gone.current = false;
    return () => {
      gone.current = true;
      going.current?.by.cancel();
    };
  }, []);

  const one = async (key: number, file: File): Promise<void> => {
    if (!gone.current && !stopped.current.has(key)) {
      const tell = (share: number) =>
        setUnder((all) => all.map((u) => (u.key === key ? { ...u, share } : u)));
      tell(0);
      const by = sendFile(file, tell, at);
      going.current = { key, by };
      const r = await by.done;
      going.current = null;
      if (r.ok) {
        learnFile(r.file);
        sent.current(r.file);
      } else if (r.sentence) say((all) => [...all, r.sentence]);
    }
    busy(-1);
    setUnder((all) => all.filter((u) => u.key !== key));
  };
  return {
    under,
    /** What went wrong, a sentence each. */
    said,
    /** Sends files, and says what was wrong with others. */
    send(files: readonly File[], wrong: string[]) {
      say(wrong);
      for (const file of files) {
        const key = next.current++;
        busy(1);
        setUnder((all) => [...all, { key, name: file.name, size: file.size, share: null }]);
        const mine: Promise<void> = last.current ? last.current.then(() => one(key, file)) : one(key, file);
        last.current = mine;
        void mine.then(() => {
          if (last.current === mine) last.current = null;
        });
      }
    },
    stop(key: number) {
      stopped.current.add(key);
      if (going.current?.key === key) going.current.by.cancel();
      // One that waits is let go when its turn comes.
      else setUnder((all) => all.filter((u) => u.key !== key));
    },
  };
}

"use client";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useSaveQueue } from "@/ui";
import { askAboutUnkept, forgetUnkept, holdUnkept, sameTyped, sweepUnkept, unkeptAt } from "./unkept";

const UNREACHED = "Not kept yet: the server cannot be reached. It is tried again.";

/** Where what has not reached the server is held in the browser meanwhile. */
interface InBrowser<T> {
  /** Of this person, this form and no other. */
  place: string;
  /** When the server kept what the page began with; null where it had kept nothing. */
  over: number | null;
  held(value: T): unknown;
  /** Puts what was held into the form. */
  put(held: unknown): void;
}

/** What was typed here before and never reached the server. */
export interface Found {
  /** It is in the form again; else it is asked, because the server has kept something else since. */
  back: boolean;
  at: number;
  take(): void;
  leave(): void;
}

/**
 * Keeps what somebody types on the server, and says in a sentence how far that is. Until it is there it is held in the
 * browser as well: a phone that is offline ends pages it needs the room of.
 */
export function useKept<T>(
  value: T,
  save: (value: T) => Promise<{ ok: boolean; sentence?: string; value?: { savedAt: number } }>,
  browser?: InBrowser<T>,
): { sentence: string; found: Found | null; stop(): void } {
  const [sentence, setSentence] = useState("");
  const [found, setFound] = useState<Omit<Found, "take" | "leave"> | null>(null);
  const over = useRef(browser?.over ?? null);
  const saves = useRef(0);
  const place = browser?.place;
  const queue = useSaveQueue<T>({
    waitMs: 700,
    retryMs: 8000,
    leaving: "overtake",
    join: (_, later) => later,
    async save(typed) {
      setSentence("Keeping…");
      const turn = ++saves.current;
      if (browser)
        holdUnkept(browser.place, { value: browser.held(typed), over: over.current, at: Date.now() });
      const r: Awaited<ReturnType<typeof save>> = await save(typed).catch(() => ({
        ok: false,
        sentence: UNREACHED,
      }));
      setSentence(r.ok ? "Kept. You can leave and come back." : r.sentence || UNREACHED);
      if (!r.ok) return "later";
      over.current = r.value?.savedAt ?? over.current;
      // What was typed since is held by the save that is under way for it.
      if (place !== undefined && turn === saves.current) forgetUnkept(place, "typed");
      return "saved";
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
  const look = useEffectEvent(() => {
    sweepUnkept(Date.now());
    if (!browser) return;
    const typed = unkeptAt(browser.place, "typed");
    // The server may have kept it, and its answer was lost.
    if (typed && sameTyped(typed.value, browser.held(value))) forgetUnkept(browser.place, "typed");
    else if (typed && typed.over === browser.over) {
      if (putIn(browser, typed.value)) return setFound({ back: true, at: typed.at });
      forgetUnkept(browser.place, "typed");
    } else if (typed) askAboutUnkept(browser.place, typed);
    const asked = unkeptAt(browser.place, "asked");
    if (asked) setFound({ back: false, at: asked.at });
  });
  useEffect(() => look(), [place]);
  const settle = (put: boolean) => {
    const is = browser && unkeptAt(browser.place, "asked");
    if (put && is) putIn(browser, is.value);
    if (browser) forgetUnkept(browser.place, "asked");
    setFound(null);
  };
  return {
    sentence,
    found: found && { ...found, take: () => settle(true), leave: () => settle(false) },
    stop() {
      queue.stop();
      if (place === undefined) return;
      forgetUnkept(place, "typed");
      forgetUnkept(place, "asked");
    },
  };
}

/** Puts in what was held; not where it is no such thing any more: a form that cannot be opened is worse than one begun anew. */
function putIn<T>(browser: InBrowser<T>, held: unknown): boolean {
  try {
    browser.put(held);
    return true;
  } catch {
    return false;
  }
}

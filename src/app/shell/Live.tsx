"use client";
import { usePathname, useRouter } from "next/navigation";
import { useCallback, useEffect, useRef } from "react";

/** The desk and pages about one request: what came between being fetched and being listened for must not be missed. */
const NOT_MISSED = /^\/(?:requests\/[^/]|desk(?:\/|$))/;

const AGAIN_MS = 30_000;

/** Looks again when something changed that this page may show, at most about twice a second; pauses while hidden. */
export function Live() {
  const router = useRouter();
  const path = usePathname();
  /** What listens; on another page it goes on until the next one has been opened, so that nothing is missed between. */
  const listening = useRef(new Set<EventSource>());
  const waiting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const later = useRef<ReturnType<typeof setTimeout> | null>(null);
  const closeAll = useCallback((but: EventSource | null) => {
    for (const s of listening.current) {
      if (s === but) continue;
      s.close();
      listening.current.delete(s);
    }
  }, []);
  useEffect(() => {
    const refresh = () => {
      waiting.current ??= setTimeout(() => {
        waiting.current = null;
        router.refresh();
      }, 350);
    };
    const open = () => {
      if (document.hidden) return;
      const source = new EventSource(`/api/live?at=${encodeURIComponent(path)}`);
      listening.current.add(source);
      source.onmessage = refresh;
      // Refused, not broken off: a browser does not try again by itself.
      source.onerror = () => {
        if (source.readyState !== EventSource.CLOSED || !listening.current.delete(source)) return;
        later.current ??= setTimeout(() => {
          later.current = null;
          if (listening.current.size === 0) {
            open();
            refresh();
          }
        }, AGAIN_MS);
      };
      source.onopen = () => {
        closeAll(source);
        if (NOT_MISSED.test(path)) refresh();
      };
    };
    const onVisible = () => {
      if (document.hidden) closeAll(null);
      else if (listening.current.size === 0) {
        open();
        refresh();
      }
    };
    open();
    document.addEventListener("visibilitychange", onVisible);
    return () => {
      document.removeEventListener("visibilitychange", onVisible);
      if (later.current) clearTimeout(later.current);
      later.current = null;
    };
  }, [router, path, closeAll]);
  useEffect(
    () => () => {
      closeAll(null);
      if (waiting.current) clearTimeout(waiting.current);
      waiting.current = null;
    },
    [closeAll],
  );
  return null;
}

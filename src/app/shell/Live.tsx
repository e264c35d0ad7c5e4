"use client";
import { usePathname, useRouter } from "next/navigation";
import { useEffect } from "react";

/** Looks again when something changed that this page may show, at most about twice a second; pauses while the page is hidden. */
export function Live() {
  const router = useRouter();
  const path = usePathname();
  useEffect(() => {
    let source: EventSource | null = null;
    let waiting: ReturnType<typeof setTimeout> | null = null;
    const refresh = () => {
      waiting ??= setTimeout(() => {
        waiting = null;
        router.refresh();
      }, 350);
    };
    const open = () => {
      if (source || document.hidden) return;
      source = new EventSource(`/api/live?at=${encodeURIComponent(path)}`);
      source.onmessage = refresh;
    };
    const close = () => {
      source?.close();
      source = null;
    };
    const onVisible = () => {
      if (document.hidden) close();
      else {
        open();
        refresh();
      }
    };
    open();
    document.addEventListener("visibilitychange", onVisible);
    return () => {
      document.removeEventListener("visibilitychange", onVisible);
      if (waiting) clearTimeout(waiting);
      close();
    };
  }, [router, path]);
  return null;
}

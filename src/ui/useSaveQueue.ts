"use client";
import { useEffect, useRef, useState } from "react";
import { SaveQueue, type Saving } from "./saveQueue";

/**
 * A `SaveQueue` for as long as the page shows its caller; what still waits is sent when that ends.
 * @param leaving what happens when the browser leaves the page: `overtake` sends at once, past what is under way;
 *   `ask` lets the browser ask first, for work that can only be sent in order
 */
export function useSaveQueue<W>(how: Saving<W> & { leaving: "overtake" | "ask" }): SaveQueue<W> {
  const save = useRef(how.save);
  save.current = how.save;
  const [queue] = useState(() => new SaveQueue<W>({ ...how, save: (work) => save.current(work) }));
  const { leaving } = how;
  useEffect(() => {
    const leave = () => void queue.flush(leaving === "overtake");
    const ask = (e: BeforeUnloadEvent) => {
      if (leaving === "ask" && !queue.idle) e.preventDefault();
    };
    const back = () => void queue.flush();
    window.addEventListener("pagehide", leave);
    window.addEventListener("online", back);
    window.addEventListener("beforeunload", ask);
    return () => {
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("online", back);
      window.removeEventListener("beforeunload", ask);
      void queue.flush();
    };
  }, [queue, leaving]);
  return queue;
}

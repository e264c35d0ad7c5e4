import { useEffect, useState } from "react";

const at = (place: string) => `held ${place}`;

/**
 * A text that is typed, held in this browser until it is sent: it is there again after a reload, or when the server could
 * not be reached.
 */
export function useHeldText(place: string): { text: string; put(text: string): void; sent(): void } {
  const [text, setText] = useState("");
  // Not while rendering: the server knows of nothing that is held.
  useEffect(() => {
    try {
      const held = localStorage.getItem(at(place));
      if (held) setText((t) => t || held);
    } catch {
      // A browser that keeps nothing: what is typed is held on the page.
    }
  }, [place]);
  const hold = (t: string) => {
    try {
      if (t) localStorage.setItem(at(place), t);
      else localStorage.removeItem(at(place));
    } catch {
      // As above, or there is no room.
    }
  };
  return {
    text,
    put(t) {
      setText(t);
      hold(t);
    },
    sent: () => hold(""),
  };
}

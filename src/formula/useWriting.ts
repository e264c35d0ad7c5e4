import { useEffect, useRef, useState } from "react";

/** The text of a field while somebody writes in it, and what was last kept. */
export interface Draft {
  text: string;
  setText(text: string): void;
  open: boolean;
  setOpen(open: boolean): void;
  why: boolean;
  setWhy(why: boolean): void;
  /** Hands the text on where it changed. */
  keep(): void;
  /** Whether nothing is written that was not kept. */
  same(): boolean;
  putBack(): void;
}

/** @param tidy what is done to a text before it is kept */
export function useWriting(
  value: string,
  onCommit: (text: string) => void,
  tidy: (text: string) => string,
): Draft {
  const [text, setText] = useState(value);
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState(false);
  const kept = useRef(value);
  useEffect(() => {
    // A change from elsewhere (undo, a renamed field) replaces what is not being typed.
    if (value !== kept.current) setText(value);
    kept.current = value;
  }, [value]);
  return {
    text,
    setText,
    open,
    why,
    setWhy,
    setOpen: (to) => {
      setOpen(to);
      if (!to) setWhy(false);
    },
    keep: () => {
      const next = tidy(text);
      if (next === kept.current) return;
      kept.current = next;
      onCommit(next);
    },
    same: () => tidy(text) === kept.current,
    putBack: () => setText(kept.current),
  };
}

"use client";
import { classes } from "@/ui";
import { useEffect, useRef, useState, type InputHTMLAttributes } from "react";

/**
 * A text in a cell, kept when left or on Enter; Escape takes the typing back. One that is refused stays as it was typed,
 * marked, until it is mended or taken back; why is said beside the sheet.
 */
export function TextCell({
  value,
  onCommit,
  className = "cell",
  onKeyDown,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value"> & {
  value: string;
  /** False where it is refused; a text where it is kept otherwise than it was typed. */
  onCommit(text: string): boolean | string | void;
}) {
  const [text, setShown] = useState(value);
  /** The same at once: leaving the cell follows a key before anything is drawn anew. */
  const typed = useRef(value);
  const setText = (t: string) => {
    typed.current = t;
    setShown(t);
  };
  const [refused, setRefused] = useState(false);
  const known = useRef(value);
  useEffect(() => {
    if (value !== known.current) {
      setText(value);
      setRefused(false);
    }
    known.current = value;
  }, [value]);
  const commit = () => {
    const now = typed.current;
    if (now === known.current) return setRefused(false);
    const kept = onCommit(now);
    if (kept !== false) known.current = typeof kept === "string" ? kept : now;
    if (typeof kept === "string") setText(kept);
    setRefused(kept === false);
  };
  return (
    <input
      {...rest}
      className={classes(className, refused && "!border-brick !bg-brick-wash")}
      {...(refused ? { "aria-invalid": true } : {})}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === "Enter") commit();
        if (e.key === "Escape") {
          e.stopPropagation();
          setText(known.current);
          setRefused(false);
        }
        onKeyDown?.(e);
      }}
    />
  );
}

"use client";
import { useEffect, useRef, useState, type InputHTMLAttributes } from "react";

/** A text in a cell, kept when left or on Enter; Escape takes the typing back. */
export function TextCell({
  value,
  onCommit,
  className = "cell",
  onKeyDown,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value"> & {
  value: string;
  onCommit(text: string): boolean | void;
}) {
  const [text, setText] = useState(value);
  const known = useRef(value);
  useEffect(() => {
    if (value !== known.current) setText(value);
    known.current = value;
  }, [value]);
  const commit = () => {
    if (text === known.current) return;
    // A refused text goes back to what was there; the reason is said beside the sheet.
    if (onCommit(text) === false) setText(known.current);
  };
  return (
    <input
      {...rest}
      className={className}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === "Enter") commit();
        if (e.key === "Escape") {
          e.stopPropagation();
          setText(known.current);
        }
        onKeyDown?.(e);
      }}
    />
  );
}

"use client";
import { useState } from "react";
import { lengthText, readLength } from "@/core/form";
import { classes } from "@/ui";
import { inputLook } from "@/forms/parts";
import type { FieldView, InputProps } from "../input";

/** As it is typed while somebody is in it, in words as soon as they have left. */
function LengthField(p: InputProps) {
  const kept = typeof p.value === "string" ? p.value : "";
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <input
      {...inputLook(p)}
      autoComplete="off"
      placeholder={p.compact ? "" : "e.g. 1 h 30 min"}
      className={classes(inputLook(p).className, !p.compact && "max-w-48")}
      value={typed ?? lengthText(kept)}
      onFocus={() => setTyped(lengthText(kept))}
      onChange={(e) => {
        setTyped(e.target.value);
        p.onChange(readLength(e.target.value) ?? e.target.value);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

export const view: FieldView = {
  Input: (p) => <LengthField {...p} />,
  shown: (v) => lengthText(v),
  figures: true,
  grouped: false,
};

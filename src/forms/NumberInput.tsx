import { readNumber } from "@/core/form";
import { classes } from "@/ui";
import { inputLook } from "./inputLook";

interface Props {
  id: string;
  label: string;
  value: string | boolean | null;
  onChange(v: string): void;
  invalid: boolean;
  describedBy?: string | undefined;
  compact?: boolean | undefined;
  /** The keys a phone shows. */
  keys?: "decimal" | "numeric";
  width?: string;
  /** What of a text is the number, where a sign may stand beside it. */
  bare?(text: string): string;
}

/** Figures. However they are written they are kept in one way; what can be read in two is asked about. */
export function NumberInput({ keys = "decimal", width = "max-w-48", bare = (t) => t, ...p }: Props) {
  return (
    <input
      {...inputLook(p)}
      inputMode={keys}
      autoComplete="off"
      className={classes(inputLook(p).className, p.compact ? "text-right" : width)}
      value={typeof p.value === "string" ? p.value : ""}
      onChange={(e) => p.onChange(e.target.value)}
      onBlur={(e) => {
        const read = readNumber(bare(e.target.value));
        if (read !== null && read !== e.target.value) p.onChange(read);
      }}
    />
  );
}

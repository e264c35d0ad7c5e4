"use client";
import { useId, type ReactNode } from "react";

/** What an input gets from the field it stands in. */
export interface FieldParts {
  id: string;
  "aria-describedby"?: string;
  "aria-invalid"?: true;
}

/** A label above an input, with help or what is wrong below it, tied to it for whoever does not see them. */
export function Field({
  label,
  help,
  wrong,
  children,
}: {
  label: ReactNode;
  help?: ReactNode;
  /** A sentence: what is wrong, the limit, an example. */
  wrong?: string | null;
  children(parts: FieldParts): ReactNode;
}) {
  const id = useId();
  const below = wrong ?? help;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block">
        {label}
      </label>
      {children({
        id,
        ...(below ? { "aria-describedby": `${id}-below` } : {}),
        ...(wrong ? { "aria-invalid": true } : {}),
      })}
      {below && (
        <p id={`${id}-below`} className={wrong ? "mt-1 text-sm text-brick" : "mt-1 text-sm text-soft"}>
          {below}
        </p>
      )}
    </div>
  );
}

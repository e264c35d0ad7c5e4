"use client";
import type { Field } from "@/core/form";
import { Detail } from "./Detail";
import { distinct } from "./distinct";

/** What can be chosen in a field, one a line. */
export function OptionsDetail(p: { field: Pick<Field, "name" | "options">; onSet(options: string[]): void }) {
  const options = p.field.options ?? [];
  const text = options.join("\n");
  return (
    <Detail says="Choices, one a line">
      <textarea
        className="input"
        rows={Math.min(8, Math.max(3, options.length + 1))}
        aria-label={`Choices of ${p.field.name}`}
        defaultValue={text}
        key={text}
        onBlur={(e) => {
          const typed = distinct(e.target.value.split("\n"));
          if (typed.join("\n") !== text) p.onSet(typed);
        }}
      />
    </Detail>
  );
}

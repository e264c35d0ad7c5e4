"use client";
import Link from "next/link";
import { useMemo } from "react";
import type { Field } from "@/core/form";
import { usesOfField, type FieldUse } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { problemPlace } from "../draft/problemPlace";

/** Every place that reads a field, sets or names it, each with the way there. */
export function FieldUses({ field }: { field: Field }) {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const uses = useMemo(
    () => usesOfField(definition, { registers, kinds: KINDS }, field.id),
    [definition, registers, field.id],
  );
  if (uses.length === 0)
    return <p className="text-sm text-soft">Nothing reads it or sets it, but for the form itself.</p>;
  return (
    <ul className="grid max-h-48 gap-0.5 overflow-y-auto text-sm">
      {together(uses).map(({ owner, says }) => {
        const at = problemPlace(definition, { ...owner, place: "" });
        return (
          <li key={`${owner.kind} ${owner.id}`}>
            <Link className="link" href={at.href}>
              {at.says}
            </Link>{" "}
            <span className="text-soft">{says.join("; ")}</span>
          </li>
        );
      })}
    </ul>
  );
}

/** What one thing does with it stands together. */
function together(uses: readonly FieldUse[]): { owner: FieldUse["owner"]; says: string[] }[] {
  const by = new Map<string, { owner: FieldUse["owner"]; says: string[] }>();
  for (const { owner, says } of uses) {
    const key = `${owner.kind} ${owner.id}`;
    const known = by.get(key) ?? { owner, says: [] };
    if (!known.says.includes(says)) known.says.push(says);
    by.set(key, known);
  }
  return [...by.values()];
}

import { findField } from "@/core/form";
import type { Problem } from "@/core/problems";
import { placesOf, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";

/** Where a problem is mended: the sheet and row as a link, and in words. */
export function problemPlace(d: ProcessDefinition, where: Problem["where"]): { href: string; says: string } {
  const base = `/workshop/${d.key}`;
  if (where.kind === "field") {
    const name = findField(d.fields, where.id)?.field.name ?? where.id;
    return { href: `${base}/form#field-${where.id}`, says: `Form sheet, “${name}”` };
  }
  if (where.kind === "step") {
    const p = placesOf(d, KINDS).get(where.id);
    const says = p ? `Route sheet, ${p.number} “${p.step.name}”` : "Route sheet";
    return { href: `${base}/route#step-${where.id}`, says };
  }
  if (where.kind === "letter") {
    const name = d.letters?.find((l) => l.id === where.id)?.name ?? where.id;
    return { href: `${base}/letters#${where.id}`, says: `Letters, “${name}”` };
  }
  if (where.kind === "ladder") {
    const name = d.ladders?.find((l) => l.id === where.id)?.name ?? where.id;
    return { href: `${base}/route#ladder-${where.id}`, says: `Route sheet, ladder “${name}”` };
  }
  if (where.kind === "document") {
    const name = d.documents?.find((x) => x.id === where.id)?.name ?? where.id;
    return { href: `${base}/templates#${where.id}`, says: `Templates, “${name}”` };
  }
  if (where.kind === "start") return { href: `${base}/route#step-start`, says: "Route sheet, start" };
  return { href: `${base}/about`, says: "About" };
}

import { findField } from "@/core/form";
import type { ProcessDefinition } from "@/core/route";
import { Failed } from "../kernel/failure";

/** Why a request is not started that a step or a record was to start; takes all that was done for it back. */
export class NotStarted extends Error {}

/** What is wrong with the form that was handed over, by the names of its fields. */
export function badForm(e: unknown, d: ProcessDefinition): NotStarted | null {
  if (!(e instanceof Failed) || e.failure.code !== "refused" || e.failure.data.code !== "form") return null;
  const name = (id: string) => findField(d.fields, id)?.field.name ?? id;
  const names = new Set(e.failure.data.data.problems.map((p) => name(p.path.split("/")[0]!)));
  return new NotStarted(
    `“${d.name}” cannot begin with what is handed over for ${[...names].join(", ")}. Mend what is handed over.`,
  );
}

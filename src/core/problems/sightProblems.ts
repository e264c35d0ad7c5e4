import type { Registers } from "../form";
import type { Problem } from "./problem";
import type { RecordRead } from "./recordReads";

/** What whoever releases a draft may see of registers. */
export interface Sight {
  /** By the register's key the ids of the columns they see; a register they see nothing of is not there. */
  columns: Readonly<Record<string, readonly string[]>>;
  /** Registers whose records not everybody can tell by what they are called. */
  closed: readonly string[];
  /** Registers this process may not read any more, whoever releases it. */
  withdrawn: readonly string[];
}

/**
 * Nobody lets a process read for them what they may not read themselves; and who cannot see a register cannot choose from
 * it on a form.
 */
export function sightProblems(
  reads: readonly RecordRead[],
  registers: Registers,
  sight: Sight,
  out: Problem[],
) {
  const said = new Set<string>();
  for (const { where, register, columns } of reads) {
    const shape = registers[register]!;
    const say = (code: string, message: string, severity: Problem["severity"] = "error") => {
      const once = JSON.stringify([where, message]);
      if (!said.has(once)) out.push({ severity, code, where, message });
      said.add(once);
    };
    if (where.kind === "field" && where.place === "register" && sight.closed.includes(register))
      say(
        "not-all-see",
        `Not everybody sees ${shape.name}: whoever fills in this form and does not cannot choose one.`,
        "warning",
      );
    if (sight.withdrawn.includes(register)) {
      say(
        "withdrawn",
        `${shape.name} may not be read by this process any more: its keeper has withdrawn it.`,
      );
      continue;
    }
    const seen = Object.hasOwn(sight.columns, register) ? sight.columns[register]! : null;
    if (seen === null) {
      say("may-not-see", `${shape.name} is read here, which you may not see. Whoever releases this must.`);
      continue;
    }
    const names = shape.columns.filter((c) => columns.includes(c.id) && !seen.includes(c.id));
    if (names.length > 0)
      say(
        "may-not-see",
        `${names.map((c) => `"${c.name}"`).join(", ")} of ${shape.name} ${names.length > 1 ? "are" : "is"} read here, which you may not see. Whoever releases this must.`,
      );
  }
}

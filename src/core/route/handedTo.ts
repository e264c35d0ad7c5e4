import { startKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";

/** By key, the processes and procedures whose steps may start requests of this one; null where no step may. */
export function letsBegin(
  d: Pick<ProcessDefinition, "starts">,
  kinds: Kinds,
): "any" | readonly string[] | null {
  const lets = d.starts.flatMap((s) => {
    const by = startKind(kinds, s).lets?.(s);
    return by === undefined ? [] : [by];
  });
  if (lets.length === 0) return null;
  return lets.includes("any") ? "any" : lets.flatMap((by) => (by === "any" ? [] : by));
}

/** Whether a step of the process or procedure with this key may start a request of it. */
export function mayBegin(d: Pick<ProcessDefinition, "starts">, process: string, kinds: Kinds): boolean {
  const lets = letsBegin(d, kinds);
  return lets === "any" || (lets?.includes(process) ?? false);
}

/** Whether others hand values to it: it is a procedure, or a process whose requests steps of others may start. */
export const isHandedTo = (d: Pick<ProcessDefinition, "procedure" | "starts">, kinds: Kinds): boolean =>
  d.procedure === true || letsBegin(d, kinds) !== null;

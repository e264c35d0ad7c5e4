import { flatFields, handsBack, takesIn, type Field } from "../form";
import type { Port } from "./port";

export type { Port } from "./port";

/** How deep procedures may hand to procedures. */
export const DEEPEST_CALL = 20;

/** What a procedure takes and hands back. */
export interface Ports {
  takes: readonly Port[];
  gives: readonly Port[];
}
/** Values one step may hand over. */
export const MOST_HANDED = 100;

/** What a step hands to a procedure or another process, and what it reads of it. */
export interface Binding {
  /** What is taken there, as it was when this was last brought up to date. */
  takes: Port[];
  /** What is handed back, of the same time: formulas read it by the name of the step. */
  gives: Port[];
  /** By what is taken, the formula for it. What is not named is handed over empty. */
  values: { port: string; value: string }[];
}

/** A procedure that is live, or a process whose requests others may start, as those who may hand to it know it. */
export interface LiveProcedure extends Ports {
  key: string;
  name: string;
  version: string;
  /** All it was ever released as. */
  versions: readonly string[];
  /** Of a process, which others may start requests of it, by key; absent for a procedure, which any may hand to. */
  from?: "any" | readonly string[];
  /** Keys of what it hands to itself. */
  handsTo: readonly string[];
}

/** @param fills whether it is given a value there: what is worked out is not */
const portOf = (
  { id, name, kind, register, registers, needed, starting, fields }: Field,
  fills: boolean,
): Port => ({
  id,
  name,
  kind,
  ...(register === undefined ? {} : { register }),
  ...(registers === undefined ? {} : { registers }),
  ...(needed && !starting ? { needed: true as const } : {}),
  ...(kind === "lines"
    ? {
        columns: flatFields(fields ?? [])
          .filter((c) => !fills || !c.worked)
          .map((c) => portOf({ ...c, needed: "" }, fills)),
      }
    : {}),
});

/** What a procedure takes and hands back, as its fields say. */
export function portsOf(fields: readonly Field[]): Ports {
  const flat = flatFields(fields);
  return {
    takes: flat.filter(takesIn).map((f) => portOf(f, true)),
    // Whether it must be filled in says nothing to whoever reads it afterwards.
    gives: flat.filter(handsBack).map((f) => portOf({ ...f, needed: "" }, false)),
  };
}

/** Rows are told by the names of their columns. */
const alike = (a: Port, b: Port | undefined): boolean =>
  b !== undefined &&
  a.kind === b.kind &&
  a.register === b.register &&
  (a.registers ?? []).join() === (b.registers ?? []).join() &&
  (a.columns ?? []).every((c) => b.columns?.some((x) => x.name === c.name && alike(c, x)));

/** How one that is known is otherwise now, or gone. */
function otherwise(p: Port, now: Port | undefined, [changed, gone]: [string, string]): string {
  if (now === undefined) return `“${p.name}” ${gone}`;
  return p.columns && now.kind === p.kind
    ? `the columns of “${p.name}” are called otherwise, or are of other kinds`
    : `“${p.name}” ${changed}`;
}

/**
 * What a caller that knows a procedure as `known`, and gives values for `given`, can no more do with it as it is now, in
 * words; nothing where it runs as before.
 */
export function broken(known: Ports, given: ReadonlySet<string>, now: Ports): string[] {
  const byId = (ports: readonly Port[], id: string) => ports.find((p) => p.id === id);
  return [
    ...known.takes
      .filter((p) => given.has(p.id) && !alike(p, byId(now.takes, p.id)))
      .map((p) => otherwise(p, byId(now.takes, p.id), ["is of another kind", "is taken no more"])),
    ...now.takes
      .filter((p) => p.needed && !given.has(p.id) && !byId(known.takes, p.id)?.needed)
      .map((p) => `“${p.name}” is needed and not handed over`),
    ...known.gives
      .filter((p) => !alike(p, byId(now.gives, p.id)))
      .map((p) =>
        otherwise(p, byId(now.gives, p.id), ["comes back as another kind", "is handed back no more"]),
      ),
  ];
}

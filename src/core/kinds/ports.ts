import type { FieldKind } from "@/fields/shapes";
import { flatFields, handsBack, takesIn, type Field } from "../form";

/** How deep procedures may hand to procedures. */
export const DEEPEST_CALL = 20;

/** A field of a procedure, as far as its callers know it. */
export interface Port {
  /** The field's. */
  id: string;
  name: string;
  kind: FieldKind;
  register?: string;
  needed?: true;
}
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

const portOf = ({ id, name, kind, register, needed }: Field): Port => ({
  id,
  name,
  kind,
  ...(register === undefined ? {} : { register }),
  ...(needed ? { needed: true as const } : {}),
});

/** What a procedure takes and hands back, as its fields say. */
export function portsOf(fields: readonly Field[]): Ports {
  const flat = flatFields(fields);
  return {
    takes: flat.filter(takesIn).map(portOf),
    // Whether it must be filled in says nothing to whoever reads it afterwards.
    gives: flat.filter(handsBack).map((f) => portOf({ ...f, needed: "" })),
  };
}

const alike = (a: Port, b: Port | undefined): boolean =>
  b !== undefined && a.kind === b.kind && a.register === b.register;

/**
 * What a caller that knows a procedure as `known`, and gives values for `given`, can no more do with it as it is now, in
 * words; nothing where it runs as before.
 */
export function broken(known: Ports, given: ReadonlySet<string>, now: Ports): string[] {
  const byId = (ports: readonly Port[], id: string) => ports.find((p) => p.id === id);
  return [
    ...known.takes
      .filter((p) => given.has(p.id) && !alike(p, byId(now.takes, p.id)))
      .map((p) =>
        byId(now.takes, p.id) ? `“${p.name}” is of another kind` : `“${p.name}” is taken no more`,
      ),
    ...now.takes
      .filter((p) => p.needed && !given.has(p.id) && !byId(known.takes, p.id)?.needed)
      .map((p) => `“${p.name}” is needed and not handed over`),
    ...known.gives
      .filter((p) => !alike(p, byId(now.gives, p.id)))
      .map((p) =>
        byId(now.gives, p.id)
          ? `“${p.name}” comes back as another kind`
          : `“${p.name}” is handed back no more`,
      ),
  ];
}

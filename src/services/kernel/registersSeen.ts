import {
  NOBODY,
  registerOpened,
  registerSeen,
  type Onlooker,
  type RegisterRights,
  type RegisterShape,
} from "@/core/form";
import { KINDS } from "@/kinds";
import type { Actor } from "./actor";
import type { Directory } from "./directory";

/** What rights ask of whoever looks. */
export const onlooker = (d: Directory, actor: Actor): Onlooker => ({
  id: actor.id,
  department: actor.department,
  groups: actor.groups,
  holds: (duty) => d.duties.some((h) => h.person === actor.id && h.duty === duty),
});

export const rightsOf = (d: Directory, register: string): RegisterRights =>
  Object.hasOwn(d.rights, register) ? d.rights[register]! : NOBODY;

/** Whether a register has been withdrawn from any of these processes. */
export const isWithdrawn =
  (d: Directory, ...processes: readonly string[]) =>
  (register: string): boolean =>
    rightsOf(d, register).withdrawn.some((key) => processes.includes(key));

/** The registers somebody may see, each with the columns they may see; all of them for Cobble Step itself. */
export function registersSeen(d: Directory, actor: Actor): Readonly<Record<string, RegisterShape>> {
  if (actor.kind === "system") return d.registers;
  const who = onlooker(d, actor);
  const out: Record<string, RegisterShape> = {};
  for (const shape of Object.values(d.registers)) {
    const rights = rightsOf(d, shape.key);
    const seen =
      actor.kind === "visitor"
        ? registerOpened(shape, rights, KINDS.fields)
        : registerSeen(shape, rights, who);
    if (seen) out[shape.key] = seen;
  }
  return out;
}

/** A register as somebody sees it, by the key that stands in an address, whatever that is. */
export function registerFor(d: Directory, actor: Actor, key: string): RegisterShape | undefined {
  const seen = registersSeen(d, actor);
  return Object.hasOwn(seen, key) ? seen[key] : undefined;
}

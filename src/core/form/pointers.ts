import type { RecordLinks, RecordRef, TypedField } from "./fieldBehaviour";

/** A record of any of several registers as it is stored, "treatments/12": an id alone would not tell whose it is. */
export const pointerTo = ({ register, id }: RecordRef): string => `${register}/${id}`;

/** The record a field of several registers points at; null for what is no pointer, or leads to another register. */
export function pointedAtBy(f: Pick<TypedField, "registers">, raw: string): RecordRef | null {
  const [register, id, ...more] = raw.split("/");
  if (!register || !id || more.length > 0 || !/^\d{1,18}$/.test(id)) return null;
  return f.registers?.includes(register) ? { register, id } : null;
}

/** How fields of one register point at its records: by the id alone. */
export const linksToOne: RecordLinks = {
  registers: (f) => (f.register ? [f.register] : []),
  target: (f, raw) => (f.register ? { register: f.register, id: raw } : null),
  pointer: ({ id }) => id,
  at: ([register]) => (register === undefined ? {} : { register }),
};

import { findField, isGroup, walkFields, type Field, type Registers } from "@/core/form";
import { renameFields, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import type { FieldPlace } from "./fieldMoves";

/** By which whole fields stand among what is copied, beside their rows as text for spreadsheets. */
export const COPIED_FIELDS = "application/x-cobble-step-fields";

/** Those of these rows that stand in no other of them, in the order of the sheet. */
export function outermost(fields: readonly Field[], ids: ReadonlySet<string>): Field[] {
  const out: Field[] = [];
  walkFields(fields, (f, parents) => {
    if (ids.has(f.id) && !parents.some((p) => ids.has(p.id))) out.push(f);
  });
  return out;
}

/** Fields as rows of a spreadsheet: name, kind, needed; such rows make fields when they are pasted. */
export function rowsOf(fields: readonly Field[]): string {
  const rows: string[] = [];
  walkFields(fields, (f) => void rows.push([f.name, f.kind, f.needed ? "needed" : ""].join("\t").trimEnd()));
  return rows.join("\n");
}

export interface FreshFields {
  fields: Field[];
  /** Names that were taken, and what they are called now. */
  renamed: { from: string; to: string }[];
}

/**
 * Copied fields as they can be added to a form: with ids and names that are free there. Formulas among them go along with
 * their names and ids; what they read besides is looked for in the form they come to. Null where names are taken and some
 * formula reads them in a way that cannot be followed: left as it is, it would read what is called so there.
 * @param into the form they come to
 * @param fresh gives a free id for a name
 */
export function freshFields(
  copied: readonly Field[],
  into: readonly Field[],
  registers: Registers,
  fresh: (name: string) => string,
): FreshFields | null {
  const [ids, taken] = [new Set<string>(), new Set<string>()];
  walkFields(into, (f) => {
    ids.add(f.id);
    taken.add(f.name.toLowerCase());
  });
  const alone: ProcessDefinition = { ...NOTHING, fields: withIds(copied, ids, fresh) };
  const renamed: FreshFields["renamed"] = [];
  const names = new Map<string, string>();
  const own: Field[] = [];
  walkFields(alone.fields, (f) => void own.push(f));
  // A name of theirs that comes later is taken as well: two would be called alike.
  const theirs = new Set(own.map((f) => f.name.toLowerCase()));
  for (const { id, name } of own) {
    if (!taken.has(name.toLowerCase())) continue;
    let to = name;
    for (let n = 2; taken.has(to.toLowerCase()) || theirs.has(to.toLowerCase()); n++) to = `${name} ${n}`;
    theirs.add(to.toLowerCase());
    names.set(id, to);
    renamed.push({ from: name, to });
  }
  if (names.size === 0) return { fields: alone.fields, renamed };
  const free = renameFields(alone, names, { kinds: KINDS, registers });
  return free && { fields: free.fields, renamed };
}

const NOTHING: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "copied",
  name: "Copied",
  purpose: "",
  owners: [],
  numbering: { prefix: "", digits: 4 },
  title: "",
  starts: [],
  fields: [],
  access: {},
  route: [],
  samples: [],
};

/** The same fields with ids that are free; what checks are told at goes along, or away where it was not copied. */
function withIds(
  copied: readonly Field[],
  taken: ReadonlySet<string>,
  fresh: (name: string) => string,
): Field[] {
  const given = new Map<string, string>();
  walkFields(copied, (f) => void given.set(f.id, taken.has(f.id) ? fresh(f.name) : f.id));
  const one = (f: Field): Field => ({
    ...f,
    id: given.get(f.id)!,
    ...(f.fields && { fields: f.fields.map(one) }),
    ...(f.checks && {
      checks: f.checks.map(({ about, ...check }) => {
        const left = about?.flatMap((id) => given.get(id) ?? []) ?? [];
        return { ...check, ...(left.length > 0 ? { about: left } : {}) };
      }),
    }),
  });
  return copied.map(one);
}

/** Where copied fields go that are pasted at a place: out of line items where they are no columns, out of all for a page. */
export function placeFor(fields: readonly Field[], place: FieldPlace, copied: readonly Field[]): FieldPlace {
  const holder = place.parent === null ? null : findField(fields, place.parent);
  if (!holder) return place;
  const around = [...holder.parents, holder.field];
  if (copied.some((f) => f.kind === "page")) return { parent: null, after: around[0]!.id };
  const lines = around.findIndex((f) => f.kind === "lines");
  if (lines < 0 || copied.every((f) => f.fields === undefined && !isGroup(f))) return place;
  return { parent: around[lines - 1]?.id ?? null, after: around[lines]!.id };
}

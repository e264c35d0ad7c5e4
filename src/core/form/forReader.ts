import { mapTemplate, type Node } from "../expression";
import type { Access, AccessOf } from "./access";
import type { FormResult } from "./evaluate";
import { findField, walkFields, type Check, type Field, type FormData, type Stored } from "./field";
import { withoutHidden, withoutHiddenFields } from "./merge";
import type { FieldPlace, PreparedForm } from "./prepare";
import { FormReads } from "./reads";

/** A form as one person may have it: everything hidden from them is gone, formulas included. */
export interface ReaderForm {
  form: PreparedForm;
  data: FormData;
  access: Record<string, Access>;
  /** By path why a value is not there that is not simply empty; the reason itself only where all it tells of is theirs to see. */
  failed: Readonly<Record<string, string>>;
}

/** Stands for a check that would tell of what is hidden. */
const NO_CHECK: Check = { must: "true", say: "" };

/**
 * Cuts a form down to what a person may see. A formula that reads a hidden field would give it away, or
 * come out wrong without it; it is replaced by what the server found it to be, and no longer recalculates.
 * The same goes for one that reads a column of a register that is hidden from them.
 * @param closed whether something read of records is hidden from them (`hiddenOfRecords`)
 * @param tells whether a formula goes by what they may not have for another reason
 */
export function formForReader(
  form: PreparedForm,
  result: Pick<FormResult, "data" | "shown" | "needed" | "failed" | "texts">,
  access: AccessOf,
  closed: (read: string) => boolean,
  tells: (formula: Node) => boolean = () => false,
): ReaderForm {
  const hidden = new Set<string>();
  const all: Record<string, Access> = {};
  walkFields(form.fields, (f, parents) => {
    if ([f, ...parents].some((x) => access(x.id) === "hide")) hidden.add(f.id);
    else all[f.id] = access(f.id);
  });
  const readsHidden = (id: string, place: FieldPlace) =>
    (form.reads[id]?.[place] ?? []).some((read) => hidden.has(read)) ||
    (form.records?.[id]?.[place] ?? []).some(closed) ||
    (form.programs[id]?.[place] !== undefined && tells(form.programs[id][place]));
  const frozen = new Set<string>();
  const found: Record<string, Partial<Record<"shown" | "needed", Record<string, boolean>>>> = {};
  const programs: Record<string, Partial<Record<FieldPlace, Node>>> = {};
  const reads: Record<string, Partial<Record<FieldPlace, readonly string[]>>> = {};
  const columns: Record<string, Partial<Record<FieldPlace, readonly string[]>>> = {};
  for (const [id, places] of Object.entries(form.programs)) {
    if (!(id in all)) continue;
    const kept: Partial<Record<FieldPlace, Node>> = {};
    for (const [place, ast] of Object.entries(places) as [FieldPlace, Node][]) {
      // What it begins with has been told before anybody reads it.
      if (place === "starting") continue;
      if (!readsHidden(id, place)) kept[place] = ast;
      else if (place.startsWith("text ")) {
        const found = result.texts.get(id)?.[Number(place.slice("text ".length))] ?? "";
        kept[place] = { k: "str", text: found, from: 0, to: 0 };
      } else if (place === "worked") {
        frozen.add(id);
        if (all[id] === "edit") all[id] = "see";
      } else if (place === "shown" || place === "needed") {
        const yes = result[place];
        const table = findField(form.fields, id)?.parents.find((p) => p.kind === "lines");
        // Of a row that is added later nothing is known here: it is shown, and the server says what it needs.
        kept[place] = { k: "bool", value: table ? place === "shown" : yes.has(id), from: 0, to: 0 };
        if (table)
          (found[id] ??= {})[place] = foundOf(result.data[table.id], (row) =>
            yes.has(`${table.id}/${row}/${id}`),
          );
      }
    }
    programs[id] = kept;
    const theirs = <T>(of: Partial<Record<FieldPlace, T>> | undefined) =>
      Object.fromEntries(
        Object.entries(of ?? {}).filter(([place]) => !readsHidden(id, place as FieldPlace)),
      ) as Partial<Record<FieldPlace, T>>;
    reads[id] = theirs(form.reads[id]);
    if (form.columns?.[id]) columns[id] = theirs(form.columns[id]);
  }
  // Where it is told says nothing of fields that are kept back.
  const told = ({ about, ...c }: Check): Check => ({
    ...c,
    ...(about ? { about: about.filter((id) => id in all) } : {}),
  });
  const clean = (fields: readonly Field[]): Field[] =>
    fields.map((f) => {
      const own = programs[f.id] ?? {};
      const { starting: _, ...out }: Field = f;
      if (frozen.has(f.id)) {
        delete out.worked;
        delete out.copied;
        delete out.fixed;
      }
      // The text of a formula over hidden fields is itself something to keep back.
      for (const p of ["shown", "needed"] as const)
        if (f[p] && own[p]?.k === "bool") out[p] = String((own[p] as { value: boolean }).value);
      // Only that there is one: the server says what can be picked.
      if (f.offered && !own.offered) out.offered = "true";
      // Nor what such a check would say: it may tell what is hidden, and the server says it where it is due.
      if (f.checks) out.checks = f.checks.map((c, i) => (own[`check ${i}`] ? told(c) : NO_CHECK));
      let nth = 0;
      // As many as there were, since what stands for each of them is told by its number.
      if (f.text) out.text = mapTemplate(f.text, (t) => (readsHidden(f.id, `text ${nth++}`) ? '""' : t));
      if (f.fields) out.fields = clean(f.fields);
      return out;
    });
  return {
    form: {
      fields: clean(withoutHiddenFields(form.fields, access)),
      programs,
      reads,
      columns,
      closed: form.closed,
      found,
    },
    data: withoutHidden(form.fields, result.data, access),
    access: all,
    failed: failedFor(form, result.failed, hidden, closed),
  };
}

function failedFor(
  form: PreparedForm,
  failed: ReadonlyMap<string, string>,
  hidden: ReadonlySet<string>,
  closed: (read: string) => boolean,
): Record<string, string> {
  const reads = new FormReads(form);
  return Object.fromEntries(
    [...failed].flatMap(([path, why]) => {
      const id = path.split("/").at(-1)!;
      if (hidden.has(id)) return [];
      const all = [id, ...reads.of(id, "worked").all];
      const open = all.every((x) => !hidden.has(x) && !(form.records?.[x]?.worked ?? []).some(closed));
      return [[path, open ? why : "It cannot be worked out."]];
    }),
  );
}

const foundOf = (rows: Stored | undefined, yes: (row: string) => boolean): Record<string, boolean> =>
  Object.fromEntries((Array.isArray(rows) ? rows : []).map((r) => [r["#"], yes(r["#"])]));

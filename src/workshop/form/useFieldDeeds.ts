"use client";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  fieldsFromRows,
  findField,
  holdsFields,
  REQUEST_SCOPE,
  walkFields,
  type Field,
  type FieldKind,
  type PastedFields,
  type Registers,
} from "@/core/form";
import type { Edit } from "@/core/route";
import { KINDS } from "@/kinds";
import type { Draft } from "../draft/draft";
import { newId } from "../parts";
import { COPIED_FIELDS, freshFields, outermost, placeFor, rowsOf } from "./copyFields";
import type { FieldDeeds } from "./fieldDeeds";
import { addedAt, nested, placeBelow, unnested, upOrDown, type FieldPlace } from "./fieldMoves";
import { readCopied } from "./readCopied";

/** The sheet as it stands: its fields, the ids of the rows in sight, and which are folded. */
export interface SheetNow {
  fields: readonly Field[];
  rows: readonly string[];
  folded: ReadonlySet<string>;
  registers: Registers;
}
const STEMS: Partial<Record<FieldKind, string>> = {
  section: "Section",
  page: "Page",
  lines: "Lines",
  "text block": "Text",
};

export interface FieldSheet {
  chosen: string | null;
  choose(id: string | null): void;
  open: string | null;
  /** Ids of the rows that are marked; none where only one is chosen. */
  marked: ReadonlySet<string>;
  add(place: FieldPlace, kind?: FieldKind): void;
  paste(place: FieldPlace, from: DataTransfer): void;
  /** Puts the focus in the name of a row once it is drawn. */
  focusSoon(id: string): void;
  deeds: Omit<FieldDeeds, "cellKey" | "cellClick" | "cellFocus" | "toKind">;
}

/**
 * What can be done with the rows of the form sheet. What rows are handed stays the same object; it looks up the sheet as
 * it is when something is done.
 * @param onAdded rows came into this group, and may be out of sight
 */
export function useFieldDeeds(
  sheet: { readonly current: SheetNow },
  { edit, tell }: Pick<Draft, "edit" | "tell">,
  setFolded: (change: (now: ReadonlySet<string>) => ReadonlySet<string>) => void,
  onAdded: (parent: string | null) => void,
): FieldSheet {
  const [chosen, setChosen] = useState<string | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [marks, setMarks] = useState<{ from: string; to: string } | null>(null);
  const focusName = useRef<string | null>(null);
  const now = useRef({ chosen, marks });
  useEffect(() => {
    now.current = { chosen, marks };
  });
  useEffect(() => {
    // A new row may come a moment later than what else changed.
    const id = focusName.current;
    const input = id === null ? null : nameOf(id);
    if (!input) return;
    focusName.current = null;
    input.focus();
    input.select();
  });

  const made = useMemo(() => {
    const { between, markedIds } = marking(sheet);
    const taken = (id: string) => findField(sheet.current.fields, id) !== null;
    const at = (id: string) => sheet.current.rows.indexOf(id);
    const ids = () => markedIds(now.current.marks);
    const put = (next: { from: string; to: string } | null) => {
      now.current.marks = next;
      setMarks(next);
    };
    const move = (id: string, e: Edit | null) => {
      if (!e) return;
      // A row that comes into another group is made anew: what stands in its cells is kept before, the caret after.
      const within = document.activeElement?.closest("[data-row]")?.id === `field-${id}`;
      if (within) (document.activeElement as HTMLElement).blur();
      if (edit(e) && within) focusName.current = id;
    };
    const add = (place: FieldPlace, kind: FieldKind = "text") => {
      const names = namesIn(sheet.current.fields);
      const stem = STEMS[kind] ?? "Field";
      let n = 1;
      while (names.has(`${stem.toLowerCase()} ${n}`)) n++;
      const name = `${stem} ${n}`;
      const id = newId(name, taken);
      const field: Field = { id, name, kind, ...(holdsFields(kind) ? { fields: [] } : {}) };
      if (!edit({ op: "field.add", ...place, field })) return;
      onAdded(place.parent);
      setChosen(id);
      focusName.current = id;
    };
    /** Ids for names, none given twice. */
    const idsFor = () => {
      const fresh = new Set<string>();
      return (name: string) => {
        const id = newId(name, (x) => taken(x) || fresh.has(x));
        fresh.add(id);
        return id;
      };
    };
    const pasteRows = (place: FieldPlace, text: string) => {
      const names = namesIn(sheet.current.fields);
      const pasted = fieldsFromRows(
        text,
        KINDS.fields,
        idsFor(),
        (name) => names.has(name) || Object.hasOwn(SMALL_NAMES, name),
      );
      if (pasted.fields.length === 0) return tell("Nothing was pasted: no row begins with a name.");
      if (edit(addedAt(place, pasted.fields))) {
        onAdded(place.parent);
        tell(pasteWords(pasted));
      }
    };
    const pasteFields = async (place: FieldPlace, text: string) => {
      const copied = await readCopied(text);
      if (!copied) return tell("What was copied cannot be read as fields. Copy the rows again.");
      const { fields, registers } = sheet.current;
      const made = freshFields(copied, fields, registers, idsFor());
      if (!made) return tell(NOT_FOLLOWED);
      const { fields: added, renamed } = made;
      const to = placeFor(fields, place, added);
      if (!edit(addedAt(to, added))) return;
      onAdded(to.parent);
      put(null);
      focusName.current = added[0]!.id;
      tell(pasteWords({ fields: added, renamed, left: [], unknown: [] }));
    };
    const paste = (place: FieldPlace, from: DataTransfer) => {
      const fields = from.getData(COPIED_FIELDS);
      if (fields) void pasteFields(place, fields);
      else pasteRows(place, from.getData("text"));
    };
    const focusRow = (id: string) => nameOf(id)?.focus();
    const deeds: FieldSheet["deeds"] = {
      choose: (id) => {
        setChosen(id);
        if (!between(now.current.marks).includes(id)) put(null);
      },
      open: (id) => setOpen((is) => (is === id ? null : id)),
      fold: (id) =>
        setFolded((f) => {
          const next = new Set(f);
          if (!next.delete(id)) next.add(id);
          return next;
        }),
      addBelow: (id) => add(placeBelow(sheet.current.fields, id, sheet.current.folded.has(id))),
      up: (id) => move(id, upOrDown(sheet.current.fields, id, -1)),
      down: (id) => move(id, upOrDown(sheet.current.fields, id, 1)),
      nest: (id) => move(id, nested(sheet.current.fields, id)),
      unnest: (id) => move(id, unnested(sheet.current.fields, id)),
      remove: (id) => {
        const { rows, fields } = sheet.current;
        const gone = ids().has(id) ? outermost(fields, ids()).map((f) => f.id) : [id];
        const away = ids().has(id) ? ids() : new Set([id]);
        const [first, last] = [Math.min(...[...away].map(at)), Math.max(...[...away].map(at))];
        const next = rows[last + 1] ?? rows[first - 1];
        const edits = gone.map((x): Edit => ({ op: "field.remove", id: x }));
        if (!edit(edits.length === 1 ? edits[0]! : { op: "batch", edits })) return;
        put(null);
        if (next) focusName.current = next;
      },
      paste: (id, from) => {
        const parent = findField(sheet.current.fields, id)?.parents.at(-1)?.id ?? null;
        paste({ parent, after: id }, from);
      },
      copy: (id, to, part) => {
        if (part && !ids().has(id)) return false;
        const of = outermost(sheet.current.fields, ids().has(id) ? ids() : new Set([id]));
        to.setData("text/plain", rowsOf(of));
        to.setData(COPIED_FIELDS, JSON.stringify(of));
        tell(
          `${of.length === 1 ? `“${of[0]!.name}” is` : `${of.length} rows are`} copied. Paste them in a name, here or in another process.`,
        );
        return true;
      },
      focus: (id, by) => {
        const next = sheet.current.rows[at(id) + by];
        if (next) focusRow(next);
      },
      mark: (by) => {
        const { marks: m, chosen: from } = now.current;
        const start = m ?? (from === null ? null : { from, to: from });
        const to = start && sheet.current.rows[at(start.to) + by];
        if (!start || to === undefined || to === null) return;
        put({ from: start.from, to });
        focusRow(to);
      },
      markTo: (id) => {
        const from = now.current.marks?.from ?? now.current.chosen;
        if (from !== null) put({ from, to: id });
      },
      unmark: () => put(null),
    };
    return { add, paste, deeds, markedIds, focusSoon: (id: string) => void (focusName.current = id) };
  }, [edit, onAdded, setFolded, sheet, tell]);
  return {
    chosen,
    choose: setChosen,
    open,
    marked: made.markedIds(marks),
    add: made.add,
    paste: made.paste,
    focusSoon: made.focusSoon,
    deeds: made.deeds,
  };
}

/** The input a row's name stands in, where it is in sight. */
const nameOf = (id: string) => document.getElementById(`name-${id}`) as HTMLInputElement | null;

function marking(sheet: { readonly current: SheetNow }) {
  /** The rows from one to another. */
  const between = (m: { from: string; to: string } | null): readonly string[] => {
    if (!m) return [];
    const { rows } = sheet.current;
    const [a, b] = [rows.indexOf(m.from), rows.indexOf(m.to)];
    return a < 0 || b < 0 ? [] : rows.slice(Math.min(a, b), Math.max(a, b) + 1);
  };
  return {
    between,
    /** Those that are marked; one alone is only chosen. */
    markedIds: (m: { from: string; to: string } | null): ReadonlySet<string> => {
      const rows = between(m);
      return new Set(rows.length > 1 ? rows : []);
    },
  };
}

function namesIn(fields: readonly Field[]): ReadonlySet<string> {
  const names = new Set<string>();
  walkFields(fields, (f) => void names.add(f.name.toLowerCase()));
  return names;
}

/** Names of the route's own, in small letters: no field can have them. */
const SMALL_NAMES = Object.fromEntries(Object.keys(REQUEST_SCOPE).map((n) => [n.toLowerCase(), true]));

const NOT_FOLLOWED =
  "Nothing was pasted: some of these rows are called as fields that are here, and a formula among them reads rows whole, so that other names cannot be told from it. Give those fields other names first, then copy them again.";

/** What pasting made of the names, so that nobody looks for one that is called otherwise now. */
function pasteWords({ fields, renamed, left, unknown }: PastedFields): string {
  const some = (list: readonly string[]) =>
    `${list.slice(0, 5).join(", ")}${list.length > 5 ? ` and ${list.length - 5} more` : ""}`;
  const parts = [
    `${fields.length} ${fields.length === 1 ? "field was" : "fields were"} added.`,
    ...(renamed.length > 0
      ? [`Called otherwise than pasted: ${some(renamed.map((r) => `“${r.from}” is “${r.to}”`))}.`]
      : []),
    ...(left.length > 0 ? [`Left out, for they are no names: ${some(left.map((l) => `“${l}”`))}.`] : []),
    ...(unknown.length > 0
      ? [`Texts, for there is no such kind: ${some(unknown.map((u) => `${u.name} (“${u.kind}”)`))}.`]
      : []),
  ];
  return parts.join(" ");
}

import type { RegisterShape } from "@/core/form";
import { COLUMNS } from "@/fields/columns";
import { quoted, type RecordRow } from "./names";

/** What a list is put in order by, in order of weight. */
export interface SortBy {
  column: string;
  descending: boolean;
}

/** Where in the order of a list a record stands: what it is sorted by, in order of weight, and its id. */
export interface RecordPlace {
  values: readonly (string | null)[];
  id: string;
}

/** The order of a list, from one end or the other. */
export interface RecordOrder {
  by: readonly SortBy[];
  /** Which way records go that are alike in all of that. */
  idsDescend: boolean;
}

/** By one column it is the order of its index, from either end: what is empty stands last, or first. */
export function orderOf(shape: RegisterShape, sort: readonly SortBy[]): RecordOrder {
  const by = sort.filter((s) => shape.columns.some((c) => c.id === s.column));
  return { by, idsDescend: by.at(-1)?.descending === true };
}

/** The same from its other end. */
export const turned = ({ by, idsDescend }: RecordOrder): RecordOrder => ({
  by: by.map((s) => ({ ...s, descending: !s.descending })),
  idsDescend: !idsDescend,
});

export const orderSql = ({ by, idsDescend }: RecordOrder): string =>
  [
    ...by.map((s) => `t.${quoted(s.column)} ${s.descending ? "desc nulls last" : "asc nulls first"}`),
    idsDescend ? "t.id desc" : "t.id",
  ].join(", ");

/** The place of a record that was read; null where a value of it could not be asked for. */
export function placeOf(shape: RegisterShape, order: RecordOrder, r: RecordRow): RecordPlace | null {
  const values = order.by.map((s) => {
    const v = r[s.column] ?? null;
    return v === null ? null : String(v);
  });
  const place = { values, id: r.id };
  return fits(shape, order, place) ? place : null;
}

/** Whether a place can be asked for in this order: it comes from an address, and may be anything. */
export function fits(shape: RegisterShape, { by }: RecordOrder, place: RecordPlace): boolean {
  if (place.values.length !== by.length || !/^\d{1,18}$/.test(place.id)) return false;
  return by.every((s, i) => {
    const { kind } = shape.columns.find((c) => c.id === s.column)!;
    const v = place.values[i]!;
    return v === null || COLUMNS[kind].comparable(v);
  });
}

/**
 * What stands behind a place in an order, as conditions over alias `t` one after the other: first what is alike in all columns and
 * has a later id, then what is alike in all but the last, and so on. Each is a range of an index where the list goes by
 * one column; as one condition with "or" between it would be none.
 * @param place one that fits
 */
export function behind(
  shape: RegisterShape,
  { by, idsDescend }: RecordOrder,
  place: RecordPlace,
): ((bind: (value: unknown) => string) => string)[] {
  const names = by.map((s) => `t.${quoted(s.column)}`);
  type Bind = (value: unknown) => string;
  const typed = (i: number, v: string, bind: Bind) => {
    const { kind } = shape.columns.find((c) => c.id === by[i]!.column)!;
    return `${bind(v)}::${COLUMNS[kind].type}`;
  };
  const alike = (upTo: number, bind: Bind): string[] =>
    names.slice(0, upTo).map((name, i) => {
      const v = place.values[i]!;
      return v === null ? `${name} is null` : `${name} = ${typed(i, v, bind)}`;
    });
  const later = idsDescend ? "<" : ">";
  const out = [
    (bind: Bind) => [...alike(by.length, bind), `t.id ${later} ${bind(place.id)}::bigint`].join(" and "),
  ];
  for (let i = by.length - 1; i >= 0; i--) {
    const [name, v] = [names[i]!, place.values[i]!];
    const part = (beyond: (bind: Bind) => string) =>
      out.push((bind) => [...alike(i, bind), beyond(bind)].join(" and "));
    // What is empty stands first going up, and last going down.
    if (by[i]!.descending && v !== null) {
      part((bind) => `${name} < ${typed(i, v, bind)}`);
      part(() => `${name} is null`);
    } else if (!by[i]!.descending)
      part((bind) => (v === null ? `${name} is not null` : `${name} > ${typed(i, v, bind)}`));
  }
  return out;
}

import { refuse } from "./refuse";

/** Where something goes that stands behind `after`; null for the first place. */
export function indexBehind(list: readonly { id: string }[], after: string | null): number {
  if (after === null) return 0;
  const at = list.findIndex((x) => x.id === after);
  if (at < 0) refuse({ code: "unknown-neighbour", data: { id: after } });
  return at + 1;
}
export const insertBehind = <T extends { id: string }>(
  list: readonly T[],
  after: string | null,
  item: T,
): T[] => list.toSpliced(indexBehind(list, after), 0, item);
/** What something stands behind; null where it is the first. */
export const neighbourOf = (list: readonly { id: string }[], index: number): string | null =>
  list[index - 1]?.id ?? null;

/** Properties set to null or undefined are left out, so that equal documents are equal text. */
export const tidy = <T extends object>(o: T): T =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== null && v !== undefined)) as T;

/** An object with some properties changed, and the patch that takes it back. */
export function patched<T extends object>(
  o: T,
  patch: Readonly<Record<string, unknown>>,
): [T, Record<string, unknown>] {
  const before = Object.fromEntries(
    Object.keys(patch).map((k) => [k, (o as Record<string, unknown>)[k] ?? null]),
  );
  return [tidy({ ...o, ...patch }), before];
}

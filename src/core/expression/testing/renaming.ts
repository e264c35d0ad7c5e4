import { renameInFormula, type NamesHere, type Renamed, type Scope, type Type } from "..";

/** The scope after a rename; rows tell which line items they are of by the table's first name. */
export function renamedScope(scope: Scope, path: readonly string[], next: string): Scope {
  const [first, column] = path as [string, string | undefined];
  return Object.fromEntries(
    Object.entries(scope).map(([name, type]) => {
      if (name !== first) return [name, type];
      if (column === undefined) return [next, type];
      return [name, columnRenamed(type, column, next)];
    }),
  );
}
function columnRenamed(type: Type, column: string, next: string): Type {
  if (type.t === "list") return { ...type, of: columnRenamed(type.of, column, next) };
  if (type.t !== "context") throw new Error("no line items");
  const fields = Object.fromEntries(
    Object.entries(type.fields).map(([k, v]) => [k === column ? next : k, v]),
  );
  return { ...type, fields };
}

/** Renames a name of a scope (`["Total"]`), or a column (`["Lines", "Price"]`), in one formula. */
export function rename(
  text: string,
  scope: Scope,
  path: readonly string[],
  next: string,
  after = renamedScope(scope, path, next),
): Renamed {
  const [first, column] = path as [string, string | undefined];
  const here = (s: Scope, old: string): NamesHere => ({
    scope: s,
    declared: (name) => {
      if (!Object.hasOwn(s, name)) return null;
      return `field ${column === undefined && name === old ? first : name}`;
    },
  });
  return renameInFormula(text, here(scope, first), here(after, next), {
    id: column === undefined ? `field ${first}` : `column ${column}`,
    entryOf: column === undefined ? null : `rows ${first}`,
    from: column ?? first,
    to: next,
  });
}

/** The renamed text; a refused rename fails the test. */
export function renamedText(text: string, scope: Scope, path: readonly string[], next: string): string {
  const r = rename(text, scope, path, next);
  if ("unclear" in r) throw new Error(`refused: ${text}: ${r.unclear.why}`);
  return r.text;
}

import { parseFormula, type Scope } from "../expression";

/** A condition that something is one text: `Category = "Materials"`, `Handling.Way = "by itself"`. */
export interface AskedValue {
  name: string;
  value: string;
}

/** What a condition asks of one name alone; null where it asks anything else. */
export function askedValue(when: string | undefined, scope: Scope): AskedValue | null {
  const ast = when ? parseFormula(when, scope).ast : null;
  if (ast?.k !== "cmp" || ast.op !== "=" || ast.right.k !== "str") return null;
  const { left } = ast;
  const name = left.k === "path" && left.of.k === "name" ? `${left.of.name}.${left.name}` : null;
  if (left.k !== "name" && name === null) return null;
  return { name: left.k === "name" ? left.name : name!, value: ast.right.text };
}

/** The condition that something is one text. */
export const conditionFor = ({ name, value }: AskedValue): string =>
  `${name} = "${value.replace(/[\\"]/g, (c) => `\\${c}`).replace(/\n/g, "\\n")}"`;

interface Way {
  id: string;
  when?: string;
}
/**
 * What makes ways go by the values of one thing: those with no condition yet get a value each, and values that no way
 * asks for get ways of their own. Conditions that are written already stay as they are.
 */
export function waysFor(
  ways: readonly Way[],
  name: string,
  values: readonly string[],
  scope: Scope,
): { put: { id: string; value: string }[]; add: string[] } {
  const asked = new Set(
    ways.flatMap((w) => {
      const a = askedValue(w.when, scope);
      return a?.name === name ? [a.value] : [];
    }),
  );
  const left = values.filter((v) => !asked.has(v));
  const blank = ways.filter((w) => w.when === "");
  const put = blank.slice(0, left.length).map((w, i) => ({ id: w.id, value: left[i]! }));
  return { put, add: left.slice(put.length) };
}

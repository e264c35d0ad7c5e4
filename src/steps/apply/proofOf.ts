import { domainOf, writtenValue, type Domain } from "@/core/conditions";
import { proveTable, type ProvenInput, type TableProof } from "@/core/decision";
import {
  ANY,
  checkFormula,
  equalValues,
  INPUT,
  parseFormula,
  type Node,
  type Scope,
} from "@/core/expression";
import { walkFields, type Field } from "@/core/form";
import { cellOf, textIn } from "./knownTexts";
import type { Apply } from "./shape";
import { isBlank } from "./tableEdits";

/** Tests are read apart from what they stand in: one that reads any name is known by that only when it runs. */
const TESTS: Scope = { [INPUT]: ANY };
const FORMULAS: Scope = {};
/** Trees of cells by their text: a table is proved again with every change of one of its cells. */
const trees = new Map<string, Node | null>();
const MOST_KEPT = 20_000;

function treeOf(text: string): Node | null {
  let tree = trees.get(text);
  if (tree === undefined) {
    if (trees.size > MOST_KEPT) trees.clear();
    trees.set(text, (tree = parseFormula(text, TESTS).ast));
  }
  return tree;
}

/**
 * Whether a field always has a value: it is filled in, always needed, and always shown, as is all it stands in. What is
 * worked out may come to nothing.
 */
function isNeverEmpty(id: string, fields: readonly Field[]): boolean {
  let never = false;
  walkFields(fields, (f, parents) => {
    if (f.id === id) never = !f.worked && f.needed === "true" && ![f, ...parents].some((x) => x.shown);
  });
  return never;
}

const proofs = new WeakMap<Apply, { by: string; proof: TableProof }>();

/** The proof of a table where it stands, kept as long as nothing of it changes. Rules that are blank are left aside. */
export function proofOf(s: Apply, scope: Scope, fields: readonly Field[]): TableProof {
  const kept = s.rules.flatMap((r, n) => (isBlank(r) ? [] : [n]));
  const inputs = s.inputs.map((i): ProvenInput => {
    const field = domainOf(i.formula.trim(), scope, fields);
    const domain: Domain | null = field ?? (i.formula ? { type: checkFormula(i.formula, scope).type } : null);
    return {
      domain,
      needed: i.needed === true || Boolean(field?.field && isNeverEmpty(field.field.id, fields)),
      tests: kept.map((n) => {
        const r = s.rules[n]!;
        const test = r.when.find((c) => c.input === i.id)?.test;
        return test ? treeOf(test) : "any";
      }),
    };
  });
  const by = JSON.stringify(inputs.map((i) => [i.needed, i.domain?.type, i.domain?.min, i.domain?.max]));
  const known = proofs.get(s);
  if (known?.by === by) return known.proof;
  const of = (rule: number) => kept[rule]!;
  const found = proveTable(
    s.hits,
    kept.length,
    inputs,
    (a, b) => s.outputs.every((o) => alike(valueOf(s, of(a), o.id), valueOf(s, of(b), o.id))),
    s.hits === "priority" ? (a, b) => outranks(s, of(a), of(b)) : (a, b) => a < b,
  );
  const proof: TableProof = {
    ...found,
    never: found.never.map((n) => ({ ...n, rule: of(n.rule) })),
    overlaps: found.overlaps.map((o) => ({ ...o, first: of(o.first), second: of(o.second) })),
  };
  proofs.set(s, { by, proof });
  return proof;
}

const valueOf = (s: Apply, rule: number, output: string): string =>
  cellOf(s.rules[rule]!.then, output)?.trim() ?? "";

/** Whether two cells come to the same, as far as they are written out; what is not is taken to differ unless it reads alike. */
function alike(a: string, b: string): boolean {
  if (a === b) return true;
  const [x, y] = [a, b].map((text) => {
    const { ast } = text ? parseFormula(text, FORMULAS) : { ast: null };
    return ast && writtenValue(ast);
  });
  return Boolean(x && y) && equalValues(x!.value, y!.value) === true;
}

/** Whether one rule is gone by where both hold; never where that is known only when they run. */
function outranks(s: Apply, a: number, b: number): boolean {
  for (const o of s.outputs) {
    if (!o.values) continue;
    const [x, y] = [a, b].map((r) => o.values!.indexOf(textIn(valueOf(s, r, o.id)) ?? ""));
    if (x! < 0 || y! < 0) return false;
    if (x !== y) return x! < y!;
  }
  return a < b;
}

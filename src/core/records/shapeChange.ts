import { checkFormula, type Scope } from "../expression";
import type { Column, FormSurrounding, RegisterShape } from "../form";
import { recordScope } from "../form";
import { ruleScope } from "./recordForm";

/** What becomes of the columns of a register; told apart by their ids, which stay. */
export interface ShapeChange {
  added: Column[];
  removed: Column[];
  renamed: { column: Column; from: string }[];
  /** Of another kind, or pointing at another register. */
  retyped: { column: Column; from: Column }[];
  /** Needed from now on, or not any more. */
  needed: Column[];
  unique: Column[];
  /** Worked out otherwise, or from now on. */
  worked: Column[];
  /** Choices that are offered no more. */
  gone: { column: Column; options: string[] }[];
}

export function shapeChange(before: RegisterShape, after: RegisterShape): ShapeChange {
  const old = new Map(before.columns.map((c) => [c.id, c]));
  const kept = after.columns.flatMap((column) => {
    const from = old.get(column.id);
    return from ? [{ column, from }] : [];
  });
  const where = (differs: (c: Column, from: Column) => boolean) =>
    kept.filter(({ column, from }) => differs(column, from));
  return {
    added: after.columns.filter((c) => !old.has(c.id)),
    removed: before.columns.filter((c) => !after.columns.some((x) => x.id === c.id)),
    renamed: where((c, from) => c.name !== from.name).map(({ column, from }) => ({
      column,
      from: from.name,
    })),
    // One more register it may point at changes nothing of what is there.
    retyped: where(
      (c, from) =>
        c.kind !== from.kind ||
        c.register !== from.register ||
        (from.registers ?? []).some((r) => !c.registers?.includes(r)),
    ),
    needed: where((c, from) => !!c.needed !== !!from.needed).map((x) => x.column),
    unique: where((c, from) => !!c.unique !== !!from.unique).map((x) => x.column),
    worked: where((c, from) => c.worked !== undefined && c.worked !== from.worked).map((x) => x.column),
    gone: kept.flatMap(({ column, from }) => {
      const options = (from.options ?? []).filter((o) => !column.options?.includes(o));
      return column.kind === from.kind && (from.options ?? []).length > 0 && options.length > 0
        ? [{ column, options }]
        : [];
    }),
  };
}

/**
 * The shape with its own formulas reading renamed columns by their new names. A formula that was written anew in the
 * same change is taken as it stands; what cannot be followed stays, and its problem is told.
 */
export function withNewNames(
  before: RegisterShape,
  after: RegisterShape,
  around: FormSurrounding,
): RegisterShape {
  const renamed = new Map(shapeChange(before, after).renamed.map(({ column, from }) => [from, column.name]));
  if (renamed.size === 0) return after;
  const rewrite = (text: string, was: string | undefined, scope: Scope): string => {
    if (text !== was) return text;
    const hits = checkFormula(text, scope).reads.references.filter(
      ({ name, target: t, from, to }) =>
        renamed.has(name) &&
        text.slice(from, to) === name &&
        (t.t === "name" || (t.t === "entry" && t.of === `record ${before.key}`)),
    );
    const behindFirst = [...hits].sort((x, y) => y.from - x.from);
    return behindFirst.reduce(
      (out, r) => out.slice(0, r.from) + renamed.get(r.name)! + out.slice(r.to),
      text,
    );
  };
  const here = { ...around, registers: { ...around.registers, [before.key]: before } };
  const [own, withBefore] = [recordScope(before, here), ruleScope(before, here)];
  return {
    ...after,
    columns: after.columns.map((c) => {
      const was = before.columns.find((x) => x.id === c.id);
      return {
        ...c,
        ...(c.worked === undefined ? {} : { worked: rewrite(c.worked, was?.worked, own) }),
        ...(c.starting === undefined ? {} : { starting: rewrite(c.starting, was?.starting, own) }),
      };
    }),
    ...(after.rules
      ? {
          rules: after.rules.map((r) => {
            const was = before.rules?.find((x) => x.id === r.id);
            const value = was?.then.do === "set" ? was.then.value : undefined;
            return {
              ...r,
              when: rewrite(r.when, was?.when, withBefore),
              then:
                r.then.do === "set" ? { ...r.then, value: rewrite(r.then.value, value, withBefore) } : r.then,
            };
          }),
        }
      : {}),
  };
}

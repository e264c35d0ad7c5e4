import type { AccessOf } from "./access";
import { walkFields, type Field } from "./field";
import type { FormProblem } from "./formProblem";

/** Reasons for which checks that may be passed are gone on past, by what tells the checks apart (`FormProblem.pass`). */
export type Passed = Readonly<Record<string, string>>;

/** The longest such reason. */
export const MAX_REASON = 500;

/** What tells a check of a field apart, in whatever row: `from#0`, `items/3/quantity#1`. */
export const passKey = (path: string, check: number): string => `${path}#${check}`;

/** The field or column a check stands at, and which of its checks it is; null for what is no such key. */
export function checkOfPass(key: string): { field: string; check: number } | null {
  const m = /^(?:.*\/)?([^/#]+)#(\d{1,3})$/s.exec(key);
  return m ? { field: m[1]!, check: Number(m[2]) } : null;
}

const reasonFor = (p: FormProblem, passed: Passed): string =>
  p.pass !== undefined && Object.hasOwn(passed, p.pass) ? passed[p.pass]!.trim() : "";

/** What keeps a form from being sent, once reasons are given for what may be passed. */
export const notPassed = (problems: readonly FormProblem[], passed: Passed): FormProblem[] =>
  problems.filter((p) => reasonFor(p, passed) === "");

/** The checks that are gone on past, each with its reason. A reason for what is no problem counts for nothing. */
export const passedBy = (
  problems: readonly FormProblem[],
  passed: Passed,
): { key: string; say: string; why: string }[] =>
  problems.flatMap((p) => {
    const why = reasonFor(p, passed).slice(0, MAX_REASON);
    return why ? [{ key: p.pass!, say: p.data.say ?? "", why }] : [];
  });

/** A check that somebody went on past, as whoever reads the form afterwards is told of it. */
export interface PassedShown {
  key: string;
  say: string;
  why: string;
  by: string;
  at: number;
}

/**
 * What was gone on past, as far as a reader may know: nothing of a check that reads something hidden from them, because
 * what it says may tell of that.
 * @param name turns an account's id into a name
 */
export function passedShown(
  fields: readonly Field[],
  passed: Readonly<Record<string, Omit<PassedShown, "key"> & { fields: readonly string[] }>>,
  access: AccessOf,
  name: (account: string) => string,
): PassedShown[] {
  const open = new Set<string>();
  walkFields(fields, (f, parents) => {
    if ([f, ...parents].every((x) => access(x.id) !== "hide")) open.add(f.id);
  });
  return Object.entries(passed).flatMap(([key, { fields: reads, say, why, by, at }]) =>
    reads.every((id) => open.has(id)) ? [{ key, say, why, by: name(by), at }] : [],
  );
}

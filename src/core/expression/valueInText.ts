import type { Node } from "./ast";
import { evaluate, type Program } from "./compile";
import { Num } from "./numbers";
import type { FormulaProblem } from "./problem";
import type { Env } from "./run";
import type { Value } from "./values";

/**
 * What a formula comes to where it is read in a title or a message. A sum of nothing is null for formulas (DMN 1.5,
 * 10.3.4.4), and 0 for whoever reads of it; one that could not be worked out stays away.
 * @param isSum whether a name is that of a field worked out as a sum
 */
export function valueInText(ast: Node, program: Program, env: Env, isSum: (name: string) => boolean): Value {
  const notes: FormulaProblem[] = [];
  const value = evaluate(program, { ...env, notes });
  if (value !== null || notes.some((n) => n.code !== "was-empty")) return value;
  return isSumCall(ast) || (ast.k === "name" && isSum(ast.name)) ? Num.of(0) : null;
}

/** Whether a formula is a sum and nothing else. */
export const isSumCall = (ast: Node): boolean => ast.k === "call" && ast.fn === "sum";

import { z } from "zod";

/** Levels of lists and objects a document may have: some sixty steps within one another. */
const MAX_NESTING = 200;

/** Whether a value goes deeper than that; without recursion, for that is what deep values break. */
function tooDeep(value: unknown): boolean {
  const todo: [unknown, number][] = [[value, 0]];
  for (let next = todo.pop(); next; next = todo.pop()) {
    const [v, depth] = next;
    if (typeof v !== "object" || v === null) continue;
    if (depth >= MAX_NESTING) return true;
    for (const inner of Object.values(v)) todo.push([inner, depth + 1]);
  }
  return false;
}

/** A schema of something that holds things of its own kind: what is nested without end is refused before it is read. */
export const notTooDeep = <T>(schema: z.ZodType<T>): z.ZodType<T> =>
  z
    .unknown()
    .refine((v) => !tooDeep(v), `It is nested more than ${MAX_NESTING} levels deep.`)
    .pipe(schema) as unknown as z.ZodType<T>;

import { z } from "zod";
import { formula, id, short, stepBase } from "@/contracts/pieces";
import { MOST_INPUTS, MOST_OUTPUTS, MOST_RULES } from "@/core/decision";

const values = z.array(z.strictObject({ output: id, value: formula })).max(MOST_OUTPUTS);
const tests = z.array(z.strictObject({ input: id, test: formula })).max(MOST_INPUTS);

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("apply"),
    inputs: z.array(z.strictObject({ id, formula, needed: z.literal(true).optional() })).max(MOST_INPUTS),
    outputs: z
      .array(
        z.strictObject({
          id,
          name: short,
          kind: z.enum(["text", "number", "yes or no", "date", "anything"]),
          values: z.array(short).max(100).optional(),
        }),
      )
      .max(MOST_OUTPUTS),
    hits: z.enum(["unique", "any", "first", "priority", "collect", "rule order", "output order"]),
    gathers: z.enum(["sum", "min", "max", "count"]).optional(),
    rules: z.array(z.strictObject({ id, when: tests, then: values, note: short.optional() })).max(MOST_RULES),
    otherwise: values.optional(),
    none: z.literal("empty").optional(),
  });

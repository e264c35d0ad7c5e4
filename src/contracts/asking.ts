import { z } from "zod";
import type { AskMail, Assignment, Ladder, Limit, RuleLength, Rung, RungAction } from "@/core/route";
import { MOST_RULES } from "@/rules/shapes";
import { RUNG_SCHEMAS } from "@/rungs/schemas";
import { formula, id, length, lengthUnit, oneOf, short, template } from "./pieces";
import { rule } from "./rule";

export const assignment: z.ZodType<Assignment> = z.strictObject({
  rule,
  how: z.enum(["one", "first", "all", "share", "number", "order"]),
  share: z.int().min(1).max(100).optional(),
  number: z.int().min(1).max(2000).optional(),
  wins: id.optional(),
  waits: z.literal(true).optional(),
  ties: z.literal("first").optional(),
  fallback: rule.optional(),
  requesterToo: z.boolean().optional(),
  never: z.array(rule).max(MOST_RULES).optional(),
  instead: z.literal("manager").optional(),
  turns: z.enum(["in turn", "fewest open"]).optional(),
  atOnce: z.literal(true).optional(),
});

export const offers = z.array(z.strictObject({ field: id, of: formula })).max(50);

/** Copied and fixed fields and columns that are read anew with an answer. */
export const anew = z.array(id).max(50);

export const askMail: z.ZodType<AskMail> = z
  .strictObject({
    subject: template(400),
    text: template(10_000),
    link: z.enum(["signed in", "free"]).optional(),
    by: z.enum(["mail and chat", "chat"]).optional(),
    fills: z.array(id).max(12).optional(),
    reply: z.literal(true).optional(),
    letter: id.optional(),
  })
  .meta({ id: "AskMail" });

const byFormula = { formula, most: length.optional() };
const ruleLength: z.ZodType<RuleLength> = z.union([
  length,
  z.strictObject({ by: z.literal("count"), ...byFormula, unit: lengthUnit }),
  z.strictObject({ by: z.literal("lasting"), ...byFormula }),
  z.strictObject({ by: z.literal("day"), ...byFormula }),
  z.strictObject({ by: z.literal("moment"), ...byFormula }),
]);

const rungProperties = {
  when: z.enum(["before", "at", "after"]),
  length: length.optional(),
  if: formula.optional(),
  every: length.optional(),
  times: z.int().min(1).max(50).optional(),
  action: oneOf<RungAction>("do", RUNG_SCHEMAS),
};
export const rung: z.ZodType<Rung> = z.strictObject({ id, ...rungProperties });
export const rungPatch = z.strictObject(rungProperties).partial();

/** Rungs of one ladder. */
const rungs = z.array(rung).max(20);
export const ladder: z.ZodType<Ladder> = z.strictObject({
  id,
  name: short,
  rungs,
  from: z.strictObject({ ladder: id, version: z.int().min(1) }).optional(),
});

export const limit: z.ZodType<Limit> = z
  .strictObject({
    from: z
      .discriminatedUnion("by", [
        z.strictObject({ by: z.literal("start") }),
        z.strictObject({ by: z.enum(["day", "moment"]), formula }),
      ])
      .optional(),
    rules: z
      .array(z.strictObject({ when: formula, length: ruleLength }))
      .max(20)
      .optional(),
    otherwise: length,
    rungs,
    ladder: id.optional(),
    still: z.enum(["asker", "anybody"]).optional(),
  })
  .meta({ id: "Limit" });

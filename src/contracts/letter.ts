import { z } from "zod";
import { MOST_OF_LETTER as MOST, type Letter, type LetterPart, type Run } from "@/core/letter";
import { formula, id, short, template } from "./pieces";

const look = {
  bold: z.literal(true).optional(),
  italic: z.literal(true).optional(),
  link: template(2000).optional(),
};
const run: z.ZodType<Run> = z.union([
  z.strictObject({ text: z.string().max(MOST.characters), ...look }),
  z.strictObject({ value: formula, ...look }),
]);
const runs = z.array(run).max(MOST.runs);
const listed = { of: formula, as: short };

const plain = [
  z.strictObject({ part: z.literal("paragraph"), runs }),
  z.strictObject({ part: z.literal("heading"), runs }),
  z.strictObject({
    part: z.literal("list"),
    numbered: z.literal(true).optional(),
    items: z.array(runs).min(1).max(MOST.items),
  }),
  z.strictObject({
    part: z.literal("table"),
    rows: z.array(z.array(runs).min(1).max(MOST.columns)).min(1).max(60),
  }),
] as const;
const inEach = z.discriminatedUnion("part", [
  ...plain,
  z.strictObject({
    part: z.literal("when"),
    when: formula,
    parts: z.array(z.discriminatedUnion("part", [...plain])).max(MOST.inPart),
  }),
]);
const part: z.ZodType<LetterPart> = z
  .lazy(() =>
    z.discriminatedUnion("part", [
      ...plain,
      z.strictObject({
        part: z.literal("lines"),
        ...listed,
        columns: z
          .array(z.strictObject({ title: short, value: formula }))
          .min(1)
          .max(MOST.columns),
      }),
      z.strictObject({ part: z.literal("when"), when: formula, parts: z.array(part).max(MOST.inPart) }),
      z.strictObject({ part: z.literal("each"), ...listed, parts: z.array(inEach).max(MOST.inPart) }),
    ]),
  )
  .meta({ id: "LetterPart" });

/** A letter of a process, or of the organisation. */
export const letter: z.ZodType<Letter> = z
  .strictObject({
    id,
    name: short,
    closes: z.literal(true).optional(),
    closing: id.optional(),
    language: formula.optional(),
    byHand: z.literal(true).optional(),
    texts: z
      .array(
        z.strictObject({
          language: z
            .string()
            .regex(/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8}){0,2}$/)
            .meta({ examples: ["en", "pt-BR"] }),
          subject: template(400),
          parts: z.array(part).max(MOST.parts),
        }),
      )
      .min(1)
      .max(12),
    from: z.strictObject({ letter: id, version: z.int().min(1) }).optional(),
  })
  .meta({ id: "Letter" });

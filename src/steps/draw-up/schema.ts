import { z } from "zod";
import { formula, id, stepBase, template } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("draw up"),
    document: z.union([id, z.literal("")]),
    called: template(200),
    as: z.enum(["docx", "pdf", "both"]),
    labels: z
      .strictObject({
        of: formula,
        heading: template(500),
        text: template(2000),
        across: z.number(),
        down: z.number(),
        margin: z.number(),
      })
      .optional(),
    into: id.optional(),
  });

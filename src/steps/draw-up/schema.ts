import { z } from "zod";
import { id, stepBase, template } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("draw up"),
    document: z.union([id, z.literal("")]),
    called: template(200),
    as: z.enum(["docx", "pdf", "both"]),
    into: id.optional(),
  });

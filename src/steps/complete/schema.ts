import { z } from "zod";
import { anew, askMail, assignment, limit, offers } from "@/contracts/asking";
import { id, short, stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("complete"),
    who: assignment,
    button: short,
    anew: anew.optional(),
    signs: z
      .strictObject({
        document: z.union([id, z.literal("")]),
        field: z.union([id, z.literal("")]),
        into: id.optional(),
      })
      .optional(),
    beside: z.enum(["called off", "stays"]).optional(),
    limit: limit.optional(),
    offers: offers.optional(),
    byMail: askMail.optional(),
  });

import { z } from "zod";
import { formula, stepBase, template } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("bring"),
    what: formula,
    to: z.discriminatedUnion("outlet", [
      z.strictObject({ outlet: z.literal("shelf"), folder: template(400) }),
      z.strictObject({ outlet: z.literal("print room"), copies: formula }),
    ]),
  });

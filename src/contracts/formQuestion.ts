import { z } from "zod";
import type { FormQuestion } from "@/core/form";
import { id } from "./pieces";

/** What a form asks of the server while it is filled in. */
export const formQuestion: z.ZodType<FormQuestion> = z.discriminatedUnion("ask", [
  z.strictObject({
    ask: z.literal("offered"),
    field: id,
    row: z.string().max(60).nullable(),
    search: z.string().max(200),
  }),
  z.strictObject({ ask: z.literal("records") }),
]);

import { z } from "zod";
import { MOST_HANDED } from "@/core/kinds";
import { fieldProperties } from "./form";
import { formula, id, registerKey, short } from "./pieces";

const port = z.strictObject({
  id,
  name: short,
  kind: fieldProperties.kind,
  register: registerKey.optional(),
  needed: z.literal(true).optional(),
});

/** What a step that hands values over says of them. */
export const binding = {
  takes: z.array(port).max(MOST_HANDED),
  gives: z.array(port).max(MOST_HANDED),
  values: z.array(z.strictObject({ port: id, value: formula })).max(MOST_HANDED),
};

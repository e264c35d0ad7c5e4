import { z } from "zod";
import { MOST_HANDED } from "@/core/kinds";
import { fieldProperties } from "./form";
import { formula, id, registerKey, short } from "./pieces";

const column = z.strictObject({
  id,
  name: short,
  kind: fieldProperties.kind,
  register: registerKey.optional(),
  registers: z.array(registerKey).max(100).optional(),
});
const port = z.strictObject({
  ...column.shape,
  needed: z.literal(true).optional(),
  columns: z.array(column).max(500).optional(),
});

/** What a step that hands values over says of them. */
export const binding = {
  takes: z.array(port).max(MOST_HANDED),
  gives: z.array(port).max(MOST_HANDED),
  values: z.array(z.strictObject({ port: id, value: formula })).max(MOST_HANDED),
};

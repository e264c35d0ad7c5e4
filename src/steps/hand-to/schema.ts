import { z } from "zod";
import { fieldProperties } from "@/contracts/form";
import { formula, id, registerKey, short, stepBase } from "@/contracts/pieces";
import { MOST_HANDED } from "./shape";

const port = z.strictObject({
  id,
  name: short,
  kind: fieldProperties.kind,
  register: registerKey.optional(),
  needed: z.literal(true).optional(),
});

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("hand to"),
    procedure: z.string().max(60),
    version: z.string().max(30).optional(),
    takes: z.array(port).max(MOST_HANDED),
    gives: z.array(port).max(MOST_HANDED),
    values: z.array(z.strictObject({ port: id, value: formula })).max(MOST_HANDED),
  });

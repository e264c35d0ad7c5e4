import { z } from "zod";
import { formula, id, registerKey, stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("write"),
    op: z.enum(["add", "change", "remove"]),
    register: registerKey,
    record: formula.optional(),
    each: z.string().optional(),
    values: z.array(z.strictObject({ column: z.string(), value: formula })).max(100),
    must: formula.optional(),
    otherwise: z.enum(["stop", "leave"]).optional(),
    quietly: z.literal(true).optional(),
    into: id.optional(),
  });

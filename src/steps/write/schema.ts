import { z } from "zod";
import { formula, id, registerKey, stepBase } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("write"),
    op: z.enum(["add", "change", "remove", "put"]),
    register: registerKey,
    record: formula.optional(),
    key: z.string().optional(),
    each: z.string().optional(),
    values: z.array(z.strictObject({ column: z.string(), value: formula })).max(100),
    own: z.literal(true).optional(),
    clears: z.literal(true).optional(),
    must: formula.optional(),
    otherwise: z.enum(["stop", "leave"]).optional(),
    quietly: z.literal(true).optional(),
    into: id.optional(),
    keeps: z.literal(true).optional(),
  });

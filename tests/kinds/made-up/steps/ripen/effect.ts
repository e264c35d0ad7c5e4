import { z } from "zod";
import type { InsideEffect } from "@/steps/executor";

export const effect: InsideEffect<"ripen"> = {
  where: "inside",
  payload: z.object({ kind: z.literal("ripen"), id: z.string(), step: z.string(), days: z.string() }),
  carryOut: async () => ({ ok: true, result: { taste: "good" } }),
};

import { z } from "zod";
import { id, short, tone } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({ id, name: short, kind: z.literal("finish"), result: short, tone });

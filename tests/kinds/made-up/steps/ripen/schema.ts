import { z } from "zod";
import { formula, id, short } from "@/contracts/pieces";

export const schema = () =>
  z.strictObject({ id, name: short, kind: z.literal("ripen"), register: z.string(), days: formula });

import { z } from "zod";
import { formula, id, length, stepBase } from "@/contracts/pieces";
import { MOST_AWAITED } from "./shape";

export const schema = () =>
  z.strictObject({
    ...stepBase,
    kind: z.literal("wait"),
    for: z
      .array(
        z.union([
          z.strictObject({ id, length }),
          z.strictObject({ id, date: formula }),
          z.strictObject({ id, moment: formula }),
          z.strictObject({ id, holds: formula }),
        ]),
      )
      .max(MOST_AWAITED),
  });

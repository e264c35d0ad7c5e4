import { z } from "zod";
import { lookEverywhere as lookAtAll, SYSTEM } from "@/services";
import { job } from "./job";

/** Looks at all that wait for records, every ten minutes. */
export const lookEverywhere = job({
  payload: z.unknown(),
  run: async () => void (await lookAtAll(SYSTEM)),
});

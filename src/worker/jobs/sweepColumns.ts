import { z } from "zod";
import { SYSTEM, sweepColumns as sweep } from "@/services";
import { job } from "./job";

/** Columns that were taken out go once nothing reads them any more. */
export const sweepColumns = job({
  payload: z.unknown(),
  run: async () => void (await sweep(SYSTEM)),
});

import { z } from "zod";
import { SYSTEM, sweepFiles as sweep } from "@/services";
import { job } from "./job";

/** Removes files that were added to a form and never sent; once a night. */
export const sweepFiles = job({
  payload: z.unknown(),
  run: async () => void (await sweep(SYSTEM)),
});

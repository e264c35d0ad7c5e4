import { z } from "zod";
import { SYSTEM, sweepContents, sweepFiles as sweep } from "@/services";
import { job } from "./job";

/** Removes files that were added to a form and never sent; and what is in files, where none has it any more. */
export const sweepFiles = job({
  payload: z.unknown(),
  run: async () => {
    await sweep(SYSTEM);
    await sweepContents(SYSTEM);
  },
});

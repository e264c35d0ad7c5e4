import { z } from "zod";
import { blankDue, removeDueFiles, sweepEnded as sweep, SYSTEM } from "@/services";
import { job } from "./job";

/**
 * Removes sessions, links, tries, drafts and entries of the log whose time is over, and personal values and
 * files of requests that ended long enough ago; once a night.
 */
export const sweepEnded = job({
  payload: z.unknown(),
  run: async () => {
    await sweep(SYSTEM);
    await blankDue(SYSTEM);
    await removeDueFiles(SYSTEM);
  },
});

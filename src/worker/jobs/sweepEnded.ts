import { z } from "zod";
import { blankDue, clearFolder, removeDueFiles, sweepEnded as sweep, SYSTEM } from "@/services";
import { job } from "./job";

/**
 * Removes sessions, links, tries, drafts and entries of the log whose time is over, and personal values and
 * files of requests that ended long enough ago, and what lies in the folder of files and belongs to nothing; once a night.
 */
export const sweepEnded = job({
  payload: z.unknown(),
  run: async () => {
    await sweep(SYSTEM);
    await blankDue(SYSTEM);
    await removeDueFiles(SYSTEM);
    await clearFolder(SYSTEM);
  },
});

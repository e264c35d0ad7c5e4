import { z } from "zod";
import { sweepEnded as sweep, SYSTEM } from "@/services";
import { job } from "./job";

/** Removes sessions, links, tries, drafts and entries of the log whose time is over; once a night. */
export const sweepEnded = job({
  payload: z.unknown(),
  run: async () => void (await sweep(SYSTEM)),
});

import { z } from "zod";
import { startFromRecords, SYSTEM } from "@/services";
import { job } from "./job";

/** Records have become what starts requests: those are made. */
export const recordStarts = job({
  payload: z.object({}),
  run: async () => void (await startFromRecords(SYSTEM)),
});

import { z } from "zod";
import { lookDates as lookAtDates, SYSTEM } from "@/services";
import { job } from "./job";

/** Dates of records come near: what they start is kept to be started. */
export const lookDates = job({
  payload: z.object({}),
  run: async () => void (await lookAtDates(SYSTEM)),
});

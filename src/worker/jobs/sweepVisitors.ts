import { z } from "zod";
import { SYSTEM, sweepVisitors as sweep } from "@/services";
import { job } from "./job";

/** Removes what people outside left who sent nothing within a day; every hour. */
export const sweepVisitors = job({
  payload: z.unknown(),
  run: async () => void (await sweep(SYSTEM)),
});

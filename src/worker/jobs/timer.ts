import { z } from "zod";
import { fireTimers, SYSTEM } from "@/services";
import { job } from "./job";

/** The moment of a ladder has come for a request; all its due timers are fired in order. */
export const timer = job({
  payload: z.object({ request: z.string() }),
  run: async ({ request }) => void (await fireTimers(SYSTEM, request)),
});

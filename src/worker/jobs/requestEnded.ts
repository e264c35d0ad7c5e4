import { z } from "zod";
import { requestEnded as tellWhoStarted, SYSTEM } from "@/services";
import { job } from "./job";

/** A request has ended that a step of another waits for. */
export const requestEnded = job({
  payload: z.object({ request: z.string() }),
  run: ({ request }) => tellWhoStarted(SYSTEM, request),
});

import { z } from "zod";
import { goOn as goOnWith, SYSTEM } from "@/services";
import { job } from "./job";

/** A request has rounds of which a command opened as many as one may: the next ones are opened. */
export const goOn = job({
  payload: z.object({ request: z.string() }),
  run: ({ request }) => goOnWith(SYSTEM, request),
});

import { z } from "zod";
import { deliver, EFFECT_PAYLOAD, SYSTEM } from "@/services";
import { job } from "./job";

/** Something a request asked of the world outside its own transaction. */
export const effect = job({
  payload: z.object({ request: z.string(), effect: EFFECT_PAYLOAD }),
  run: ({ request, effect: e }) => deliver(SYSTEM, request, e),
});

import { z } from "zod";
import { lookAt, SYSTEM } from "@/services";
import { job } from "./job";

/** A record changed that a request waits for, or it has just begun to wait. */
export const look = job({
  payload: z.object({ request: z.string() }),
  run: ({ request }) => lookAt(SYSTEM, request),
});

import { z } from "zod";
import { callOff as endUnneeded, SYSTEM } from "@/services";
import { job } from "./job";

/** A request went another way: what its steps had started, and nobody needs any more, is ended. */
export const callOff = job({
  payload: z.object({ request: z.string() }),
  run: ({ request }) => endUnneeded(SYSTEM, request),
});

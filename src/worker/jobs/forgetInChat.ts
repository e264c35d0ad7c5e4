import { z } from "zod";
import { forgetInChat as forget, SYSTEM } from "@/services";
import { job } from "./job";

/** A request was blanked: what stands of it in the chat room is, too. */
export const forgetInChat = job({
  payload: z.object({ request: z.string() }),
  run: ({ request }) => forget(SYSTEM, request),
});

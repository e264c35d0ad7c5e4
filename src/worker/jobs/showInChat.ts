import { z } from "zod";
import { showInChat as show, SYSTEM } from "@/services";
import { job } from "./job";

/** Tasks were answered, taken or given to others: messages about them show that. */
export const showInChat = job({
  payload: z.object({ request: z.string(), tasks: z.array(z.string()) }),
  run: ({ request, tasks }) => show(SYSTEM, request, tasks),
});

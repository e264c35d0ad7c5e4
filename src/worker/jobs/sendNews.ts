import { z } from "zod";
import { sendNews as send, SYSTEM } from "@/services";
import { job } from "./job";

/** News goes to somebody by a way beside the screen. */
export const sendNews = job({
  payload: z.object({ notice: z.string(), way: z.enum(["mail", "chat"]) }),
  run: ({ notice, way }) => send(SYSTEM, notice, way),
});

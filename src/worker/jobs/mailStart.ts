import { z } from "zod";
import { startByMail, SYSTEM } from "@/services";
import { job } from "./job";

/** A mail came that answers nothing: it may start a request. */
export const mailStart = job({
  payload: z.object({ message: z.string() }),
  run: ({ message }) => startByMail(SYSTEM, message),
});

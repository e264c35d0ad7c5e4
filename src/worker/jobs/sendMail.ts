import { z } from "zod";
import { sendMails, sendMessage, SYSTEM } from "@/services";
import { job } from "./job";

/** Mails a step has put into the book. */
export const sendMail = job({
  payload: z.object({ request: z.string(), effect: z.string() }),
  run: ({ request, effect }) => sendMails(SYSTEM, request, effect),
});

/** One that was not out when it was tried before. */
export const sendAgain = job({
  payload: z.object({ message: z.string() }),
  run: ({ message }) => sendMessage(SYSTEM, message),
});

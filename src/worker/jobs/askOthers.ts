import { z } from "zod";
import { askOthers as ask, SYSTEM } from "@/services";
import { job } from "./job";

/** Asks others where those who were asked have left or gone away; every ten minutes, and after the clock was moved. */
export const askOthers = job({
  payload: z.unknown(),
  run: async () => void (await ask(SYSTEM)),
});

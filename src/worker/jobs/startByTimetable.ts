import { z } from "zod";
import { startByTimetable as start, SYSTEM } from "@/services";
import { job } from "./job";

/** Days of timetables come: what starts on them is started. */
export const startByTimetable = job({
  payload: z.object({}),
  run: async () => void (await start(SYSTEM)),
});

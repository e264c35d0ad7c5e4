import { z } from "zod";
import { SYSTEM, workSheet } from "@/services";
import { job } from "./job";

/** A sheet somebody brings into a register is read, tried or written. */
export const sheetImport = job({
  payload: z.object({ import: z.string() }),
  run: ({ import: id }) => workSheet(SYSTEM, id),
});

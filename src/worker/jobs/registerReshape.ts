import { z } from "zod";
import { SYSTEM, workReshape } from "@/services";
import { job } from "./job";

/** The records of a register whose shape is changed are gone through. */
export const registerReshape = job({
  payload: z.object({ reshape: z.string() }),
  run: ({ reshape }) => workReshape(SYSTEM, reshape),
});

import { getPool, outside } from "@/db";
import { defineView } from "../kernel/defineUseCase";

/** Removes what people outside left who sent nothing within a day; how many accounts went. */
export const sweepVisitors = defineView(["run jobs"], async (c): Promise<number> =>
  c.may({ action: "run jobs" }) ? outside.sweepVisitors(getPool()) : 0,
);

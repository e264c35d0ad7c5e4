import type { z } from "zod";
import { schema as remind } from "./remind/schema";
import { schema as tell } from "./tell/schema";
import { schema as add } from "./add/schema";
import { schema as handOver } from "./hand-over/schema";
import { schema as answer } from "./answer/schema";
import type { RungKind, RungParts } from "./shapes";

export const RUNG_SCHEMAS = { remind, tell, add, "hand over": handOver, answer } satisfies {
  [K in RungKind]: z.ZodType<RungParts[K]>;
};

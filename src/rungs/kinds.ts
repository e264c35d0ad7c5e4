import type { RungBehaviour } from "@/core/kinds";
import { add } from "./add/kind";
import { answer } from "./answer/kind";
import { handOver } from "./hand-over/kind";
import { remind } from "./remind/kind";
import type { RungKind } from "./shapes";
import { tell } from "./tell/kind";

/** In the order in which the picker offers them. */
export const RUNGS = { remind, tell, add, "hand over": handOver, answer } satisfies {
  [K in RungKind]: RungBehaviour<K>;
};

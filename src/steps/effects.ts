import type { Effect } from "@/core/engine";
import type { AnyExecutor, Executor } from "./executor";
import type { EffectKind } from "./shapes";
import { effect as bring } from "./bring/effect";
import { effect as complete } from "./complete/effect";
import { effect as drawUp } from "./draw-up/effect";
import { effect as find } from "./find/effect";
import { effect as startRequest } from "./start-request/effect";
import { effect as tell } from "./tell/effect";
import { effect as write } from "./write/effect";

/** Who carries out what steps ask of the world, and where. */
export const EFFECTS = {
  bring,
  complete,
  "draw up": drawUp,
  find,
  "start request": startRequest,
  tell,
  write,
} satisfies {
  [K in EffectKind]: Executor<K>;
};

/** The executor of an effect, whichever its kind. */
export const executorOf = (e: Pick<Effect, "kind">): AnyExecutor => EFFECTS[e.kind] as unknown as AnyExecutor;

import { handTo } from "./hand-to/kind";
import type { StepBehaviour } from "@/core/kinds";
import { apply } from "./apply/kind";
import { choose } from "./choose/kind";
import { complete } from "./complete/kind";
import { decide } from "./decide/kind";
import { find } from "./find/kind";
import { finish } from "./finish/kind";
import { forEach } from "./for-each/kind";
import { jump } from "./jump/kind";
import type { StepKind } from "./shapes";
import { part } from "./part/kind";
import { startRequest } from "./start-request/kind";
import { bring } from "./bring/kind";
import { drawUp } from "./draw-up/kind";
import { tell } from "./tell/kind";
import { together } from "./together/kind";
import { wait } from "./wait/kind";
import { workOut } from "./work-out/kind";
import { write } from "./write/kind";

/** In the order in which the picker offers them. */
export const STEPS = {
  decide,
  complete,
  choose,
  together,
  find,
  "for each": forEach,
  "hand to": handTo,
  "start request": startRequest,
  wait,
  write,
  apply,
  "work out": workOut,
  "draw up": drawUp,
  bring,
  tell,
  jump,
  finish,
  part,
} satisfies { [K in StepKind]: StepBehaviour<K> };

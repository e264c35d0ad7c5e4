import { schema as handTo } from "./hand-to/schema";
import type { z } from "zod";
import type { StepList } from "@/contracts/stepList";
import type { StepOf } from "@/core/route";
import { schema as apply } from "./apply/schema";
import { schema as decide } from "./decide/schema";
import { schema as complete } from "./complete/schema";
import { schema as choose } from "./choose/schema";
import { schema as together } from "./together/schema";
import { schema as find } from "./find/schema";
import { schema as forEach } from "./for-each/schema";
import { schema as write } from "./write/schema";
import { schema as wait } from "./wait/schema";
import { schema as workOut } from "./work-out/schema";
import { schema as part } from "./part/schema";
import { schema as startRequest } from "./start-request/schema";
import { schema as bring } from "./bring/schema";
import { schema as drawUp } from "./draw-up/schema";
import { schema as tell } from "./tell/schema";
import { schema as jump } from "./jump/schema";
import { schema as finish } from "./finish/schema";
import type { StepKind } from "./shapes";

/** By kind: the schema of a step, given that of a list of steps. */
export const STEP_SCHEMAS = {
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
} satisfies { [K in StepKind]: (list: StepList) => z.ZodType<StepOf<K>> };

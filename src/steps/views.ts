import { view as apply } from "./apply/View";
import { view as choose } from "./choose/View";
import { view as complete } from "./complete/View";
import { view as decide } from "./decide/View";
import { view as handTo } from "./hand-to/View";
import { view as find } from "./find/View";
import { view as forEach } from "./for-each/View";
import { view as finish } from "./finish/View";
import { view as jump } from "./jump/View";
import type { StepKind } from "./shapes";
import { view as part } from "./part/View";
import { view as startRequest } from "./start-request/View";
import { view as bring } from "./bring/View";
import { view as drawUp } from "./draw-up/View";
import { view as tell } from "./tell/View";
import { view as together } from "./together/View";
import type { StepView } from "./view";
import { view as wait } from "./wait/View";
import { view as workOut } from "./work-out/View";
import { view as write } from "./write/View";

export const STEP_VIEWS = {
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
} satisfies { [K in StepKind]: StepView<K> };

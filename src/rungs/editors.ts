import { Editor as add } from "./add/Editor";
import { Editor as answer } from "./answer/Editor";
import type { RungEditorOf } from "./editor";
import { Editor as handOver } from "./hand-over/Editor";
import type { RungKind } from "./shapes";
import { Editor as tell } from "./tell/Editor";

export const RUNG_EDITORS = { remind: null, tell, add, "hand over": handOver, answer } satisfies {
  [K in RungKind]: RungEditorOf<K>;
};

import { Editor as answered } from "./answered/Editor";
import { Editor as duty } from "./duty/Editor";
import type { RuleEditorOf } from "./editor";
import { Editor as formula } from "./formula/Editor";
import { Editor as group } from "./group/Editor";
import { Editor as head } from "./head/Editor";
import { Editor as manager } from "./manager/Editor";
import { Editor as outside } from "./outside/Editor";
import { Editor as people } from "./people/Editor";
import { Editor as person } from "./person/Editor";
import { Editor as several } from "./several/Editor";
import type { RuleKind } from "./shapes";

export const RULE_EDITORS = {
  manager,
  head,
  duty,
  group,
  person,
  people,
  formula,
  outside,
  answered,
  requester: null,
  several,
} satisfies {
  [K in RuleKind]: RuleEditorOf<K>;
};

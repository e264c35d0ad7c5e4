import { Editor as duty } from "./duty/Editor";
import type { RuleEditorOf } from "./editor";
import { Editor as formula } from "./formula/Editor";
import { Editor as group } from "./group/Editor";
import { Editor as manager } from "./manager/Editor";
import { Editor as person } from "./person/Editor";
import type { RuleKind } from "./shapes";

export const RULE_EDITORS = { manager, duty, group, person, formula, requester: null } satisfies {
  [K in RuleKind]: RuleEditorOf<K>;
};

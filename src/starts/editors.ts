import type { StartEditorOf } from "./editor";
import { Editor as form } from "./form/Editor";
import type { StartKind } from "./shapes";

export const START_EDITORS = { form } satisfies { [K in StartKind]: StartEditorOf<K> };

import type { StartEditorOf } from "./editor";
import { Editor as date } from "./date/Editor";
import { Editor as form } from "./form/Editor";
import { Editor as handed } from "./handed/Editor";
import { Editor as mail } from "./mail/Editor";
import { Editor as press } from "./press/Editor";
import { Editor as publicForm } from "./public/Editor";
import { Editor as record } from "./record/Editor";
import { Editor as timetable } from "./timetable/Editor";
import type { StartKind } from "./shapes";

export const START_EDITORS = {
  form,
  public: publicForm,
  press,
  handed,
  record,
  date,
  timetable,
  mail,
} satisfies {
  [K in StartKind]: StartEditorOf<K>;
};

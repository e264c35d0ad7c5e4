import { Editor as wholeNumber } from "./whole-number/Editor";
import { Editor as percentage } from "./percentage/Editor";
import { Editor as choice } from "./choice/Editor";
import { Editor as severalChoices } from "./several-choices/Editor";
import { Editor as date } from "./date/Editor";
import type { FieldEditor } from "./editor";
import { Editor as file } from "./file/Editor";
import { Editor as files } from "./files/Editor";
import { Editor as lines } from "./lines/Editor";
import { Editor as lookUp } from "./look-up/Editor";
import { Editor as textBlock } from "./text-block/Editor";
import { Editor as severalRecords } from "./several-records/Editor";
import { Editor as lookUpInSeveral } from "./look-up-in-several/Editor";
import { Editor as money } from "./money/Editor";
import { Editor as number } from "./number/Editor";
import type { FieldKind } from "./shapes";

/** What each kind of field has to set up. */
export const FIELD_EDITORS = {
  text: null,
  "long text": null,
  "e-mail": null,
  "web address": null,
  telephone: null,
  "postal address": null,
  number,
  "whole number": wholeNumber,
  money,
  percentage,
  date,
  time: null,
  "date and time": null,
  "length of time": null,
  "yes or no": null,
  choice,
  "several choices": severalChoices,
  person: null,
  "look-up": lookUp,
  "several records": severalRecords,
  "look-up in several": lookUpInSeveral,
  file,
  files,
  signature: null,
  request: null,
  lines,
  section: null,
  page: null,
  "text block": textBlock,
} satisfies { [K in FieldKind]: FieldEditor };

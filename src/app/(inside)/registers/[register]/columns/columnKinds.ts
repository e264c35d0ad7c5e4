import type { ColumnKind } from "@/core/form";

const LABELS = {
  text: "text",
  "long text": "long text",
  "e-mail": "e-mail address",
  "web address": "web address",
  telephone: "telephone number",
  number: "number",
  "whole number": "whole number",
  percentage: "percentage",
  money: "money",
  date: "date",
  time: "time",
  "date and time": "date and time",
  "yes or no": "yes or no",
  choice: "choice",
  "several choices": "several choices",
  person: "person",
  "look-up": "link to a record",
  "look-up in several": "link to any of several",
  file: "file",
  files: "several files",
  request: "link to a request",
} satisfies { [K in ColumnKind]: string };

/** Kinds a column can be of, as sheets offer them. */
export const COLUMN_KINDS = Object.entries(LABELS).map(([value, label]) => ({
  value: value as ColumnKind,
  label,
}));

/**
 * Kinds of field. `page` and `section` only arrange, `lines` is a table whose rows hold the inner fields; all others
 * have a value. `column`: whether a register may have a column of it. To add a kind: a line here, its folder, and a
 * line in each list beside this file.
 */
export interface FieldParts {
  text: { column: true };
  "long text": { column: true };
  "e-mail": { column: true };
  "web address": { column: true };
  telephone: { column: true };
  "postal address": { column: false };
  number: { column: true };
  "whole number": { column: true };
  percentage: { column: true };
  money: { column: true };
  date: { column: true };
  time: { column: true };
  "date and time": { column: true };
  "length of time": { column: false };
  "yes or no": { column: true };
  choice: { column: true };
  "several choices": { column: true };
  person: { column: true };
  "look-up": { column: true };
  "several records": { column: false };
  "look-up in several": { column: true };
  file: { column: true };
  files: { column: true };
  signature: { column: false };
  request: { column: true };
  lines: { column: false };
  section: { column: false };
  page: { column: false };
  "text block": { column: false };
}
export type FieldKind = keyof FieldParts;
export type ColumnKind = { [K in FieldKind]: FieldParts[K]["column"] extends true ? K : never }[FieldKind];

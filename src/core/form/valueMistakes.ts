import { isContext, isDate, isNum, Num, type Value } from "../expression";
import { MAX_FILE_MB, MAX_LONG_TEXT, MAX_TEXT, type Field, type Stored } from "./field";

/** Something that keeps a form from being sent. `path` is field id, or lines/row/column. */
export interface FormProblem {
  code:
    | "needed"
    | "not-a-number"
    | "too-small"
    | "too-large"
    | "too-early"
    | "too-late"
    | "not-a-date"
    | "too-long"
    | "not-an-option"
    | "check"
    | "too-many-lines"
    | "no-lines"
    | "too-many-decimals"
    | "not-yes-or-no"
    | "no-file"
    | "file-too-large"
    | "wrong-file";
  path: string;
  data: { field: string; value?: string; limit?: string; say?: string; row?: number };
}
export type ValueMistake = Pick<FormProblem, "code"> & { data: { value?: string; limit?: string } };

/**
 * What is wrong with a value that is there, by the field's kind, range and choices.
 * @param raw as it is stored
 * @param v as formulas read it; null where it cannot be read
 */
export function valueMistakes(f: Field, raw: Stored, v: Value): ValueMistake[] {
  const text = String(raw);
  const out: ValueMistake[] = [];
  const say = (code: ValueMistake["code"], data: ValueMistake["data"] = {}) => out.push({ code, data });
  switch (f.kind) {
    case "number":
    case "money":
      if (!isNum(v)) say("not-a-number", { value: text });
      else {
        if (f.kind === "money" && v.decimals > 2) say("too-many-decimals", { value: text, limit: "2" });
        if (f.min && v.comparedTo(Num.of(f.min)) < 0) say("too-small", { value: text, limit: f.min });
        if (f.max && v.comparedTo(Num.of(f.max)) > 0) say("too-large", { value: text, limit: f.max });
      }
      break;
    case "date":
      if (!isDate(v)) say("not-a-date", { value: text });
      else {
        if (f.min && text < f.min) say("too-early", { value: text, limit: f.min });
        if (f.max && text > f.max) say("too-late", { value: text, limit: f.max });
      }
      break;
    case "yes or no":
      if (typeof raw !== "boolean") say("not-yes-or-no", { value: text });
      break;
    case "choice":
      if (!(f.options ?? []).includes(text))
        say("not-an-option", { value: text, limit: (f.options ?? []).join(", ") });
      break;
    case "text":
    case "long text": {
      const limit = f.kind === "text" ? MAX_TEXT : MAX_LONG_TEXT;
      if (text.length > limit) say("too-long", { value: String(text.length), limit: String(limit) });
      break;
    }
    case "file":
      if (v === null || !isContext(v)) say("no-file");
      else out.push(...fileMistakes(f, String(v.get("name")), Number(String(v.get("size")))));
      break;
  }
  return out;
}

/** Rounded up, so that what is over a limit also reads so. */
export const megabytes = (bytes: number): string => (Math.ceil(bytes / 100_000) / 10).toFixed(1);

/** What is wrong with a file for a field: its kind, its size. Asked before it is sent, too. */
export function fileMistakes(f: Pick<Field, "options" | "max">, name: string, bytes: number): ValueMistake[] {
  const out: ValueMistake[] = [];
  const ending = /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? "";
  const allowed = (f.options ?? []).map((o) => o.toLowerCase().replace(/^\./, ""));
  if (allowed.length > 0 && !allowed.includes(ending))
    out.push({ code: "wrong-file", data: { value: name, limit: allowed.join(", ") } });
  const most = Math.min(Number(f.max ?? MAX_FILE_MB) || MAX_FILE_MB, MAX_FILE_MB);
  if (bytes > most * 1_000_000)
    out.push({ code: "file-too-large", data: { value: megabytes(bytes), limit: String(most) } });
  return out;
}

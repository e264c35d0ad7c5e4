import { isNum, toNum, type Value } from "../expression";
import { MAX_FILE_MB, USUAL_FILE_MB, type Field, type Stored } from "./field";
import { readsBothWays } from "./readNumber";
import type { ValueMistake } from "./formProblem";

/**
 * What is wrong with a number, by its range.
 * @param decimals how many digits it may have behind the point; null for any
 */
export function numberMistakes(
  f: Pick<Field, "min" | "max">,
  raw: Stored,
  v: Value,
  decimals: number | null,
): ValueMistake[] {
  const value = String(raw);
  if (!isNum(v)) return [{ code: readsBothWays(value) ? "two-readings" : "not-a-number", data: { value } }];
  const out: ValueMistake[] = [];
  if (decimals !== null && v.decimals > decimals)
    out.push({ code: "too-many-decimals", data: { value, limit: String(decimals) } });
  // A limit that is no number is a problem of the draft, and binds nobody.
  const [min, max] = [toNum(f.min ?? ""), toNum(f.max ?? "")];
  if (min && v.comparedTo(min) < 0) out.push({ code: "too-small", data: { value, limit: min.toFixed() } });
  if (max && v.comparedTo(max) > 0) out.push({ code: "too-large", data: { value, limit: max.toFixed() } });
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
  const most = Math.min(Number(f.max ?? USUAL_FILE_MB) || USUAL_FILE_MB, MAX_FILE_MB);
  if (bytes > most * 1_000_000)
    out.push({ code: "file-too-large", data: { value: megabytes(bytes), limit: String(most) } });
  return out;
}

import { flatFields, labelOf, MAX_LONG_TEXT, MOST_ROWS, type Field, type FormData } from "./field";
import type { FormProblem } from "./formProblem";

/** What a form may hold as it is sent, in bytes of UTF-8; the pages' server takes somewhat more. */
const MOST_SENT = 3_500_000;

/**
 * What keeps a form from being sent or kept at all, because it holds more than is taken in; null where it does not. Asked
 * before it goes: what is refused for its size on the way comes back without a word.
 */
export function tooLarge(fields: readonly Field[], data: FormData): FormProblem | null {
  let [longest, most] = [fields[0], 0];
  for (const f of flatFields(fields)) {
    const v = data[f.id];
    const long = longText(f, v);
    if (long) return long;
    const size = v === undefined ? 0 : bytesOf(JSON.stringify(v));
    if (size > most) [longest, most] = [f, size];
  }
  const all = bytesOf(JSON.stringify(data));
  if (all <= MOST_SENT || !longest) return null;
  const [value, limit] = [all, MOST_SENT].map((n) => (n / 1_000_000).toFixed(1)) as [string, string];
  return { code: "form-too-large", path: longest.id, data: { field: labelOf(longest), value, limit } };
}

/** Of a text in UTF-8 (RFC 3629, section 3). Half of a pair is counted as two, so that a pair is four. */
function bytesOf(text: string): number {
  let n = text.length;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (c >= 0x80) n += c < 0x800 || (c >= 0xd800 && c < 0xe000) ? 1 : 2;
  }
  return n;
}

function longText(f: Field, v: FormData[string] | undefined): FormProblem | null {
  const limit = String(MAX_LONG_TEXT);
  const problem = (of: Field, text: unknown, path: string, row?: number): FormProblem[] =>
    typeof text === "string" && text.length > MAX_LONG_TEXT
      ? [
          {
            code: "too-long",
            path,
            data: {
              field: labelOf(of),
              value: String(text.length),
              limit,
              ...(row === undefined ? {} : { row }),
            },
          },
        ]
      : [];
  if (!Array.isArray(v)) return problem(f, v, f.id)[0] ?? null;
  if (v.length > MOST_ROWS)
    return {
      code: "too-many-lines",
      path: f.id,
      data: { field: labelOf(f), value: String(v.length), limit: String(MOST_ROWS) },
    };
  for (const [i, row] of v.entries())
    for (const c of f.fields ?? []) {
      const [long] = problem(c, row[c.id], `${f.id}/${row["#"]}/${c.id}`, i + 1);
      if (long) return long;
    }
  return null;
}

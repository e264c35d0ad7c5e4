import { Num, toNum, type Num as N } from "../numbers";
import { compileRegex, type Regex } from "../regex";
import { textSize, type Value } from "../values";
import { MAX_TEXT, overload, TOO_LONG, type CallSite, type Overload } from "./define";

const remembered = new Map<string, Regex | string>();
/** Patterns stand in formulas and come again with every line; the last few are kept compiled. */
function regexOf(pattern: string, flags: string): Regex | string {
  const key = `${flags}/${pattern}`;
  let r = remembered.get(key);
  if (r === undefined) {
    if (remembered.size >= 50) remembered.delete(remembered.keys().next().value!);
    remembered.set(key, (r = compileRegex(pattern, flags)));
  }
  return r;
}
const withRegex = (
  pattern: string,
  flags: string | undefined,
  at: CallSite,
  then: (r: Regex) => Value,
): Value => {
  const r = regexOf(pattern, flags ?? "");
  return typeof r === "string" ? at.say(r) : then(r);
};

/** F&O 3.1, fn:replace: of several digits those that name a group, from the left; what is left over stands for itself. */
function groupIn(digits: string, groups: number): string {
  let taken = digits;
  while (taken.length > 1 && Number(taken) > groups) taken = taken.slice(0, -1);
  return taken;
}

/** XPath 5.6.4: `$1` is what the first brackets found; `\$` and `\\` are the characters themselves. */
function replaced(text: string, r: Regex, by: string, at: CallSite): Value {
  const parts = by.match(/\\.|\$\d+|[\s\S]/gu) ?? [];
  if (parts.some((p) => p === "$" || p === "\\" || (p[0] === "\\" && p !== "\\\\" && p !== "\\$")))
    return at.say(
      `In what replaces, write \\$ and \\\\ for the characters themselves, and $1 for what the first brackets found.`,
    );
  const chars = [...text];
  if (r.exec([], 0, at))
    return at.say("The pattern also fits nothing at all; then there is nothing to replace.");
  let out = "";
  let pos = 0;
  for (;;) {
    const m = r.exec(chars, pos, at);
    if (!m) break;
    out += chars.slice(pos, m[0]).join("");
    for (const p of parts) {
      if (p[0] === "$") {
        const digits = groupIn(p.slice(1), r.groups);
        const g = Number(digits);
        if (g <= r.groups && m[g * 2]! >= 0) out += chars.slice(m[g * 2], m[g * 2 + 1]).join("");
        out += p.slice(1 + digits.length);
      } else out += p[0] === "\\" ? p[1] : p;
    }
    pos = m[1]!;
    at.spend(parts.length);
    if (out.length > MAX_TEXT) return at.say(TOO_LONG);
  }
  return out + chars.slice(pos).join("");
}

function split(text: string, r: Regex, at: CallSite): Value {
  if (r.exec([], 0, at))
    return at.say("The pattern also fits nothing at all; then the text has no places to split.");
  const chars = [...text];
  const out: string[] = [];
  let pos = 0;
  for (let m = r.exec(chars, 0, at); m; m = r.exec(chars, pos, at)) {
    out.push(chars.slice(pos, m[0]).join(""));
    pos = m[1]!;
  }
  return [...out, chars.slice(pos).join("")];
}

function literally(text: string, part: string, by: string, at: CallSite): Value {
  if (part === "") return at.say("The pattern also fits nothing at all; then there is nothing to replace.");
  const pieces = text.split(part);
  return text.length + (pieces.length - 1) * (by.length - part.length) > MAX_TEXT
    ? at.say(TOO_LONG)
    : pieces.join(by);
}

const int = (n: N): number | null => (n.isInteger() ? n.toNumber() : null);

export const TEXTS: Record<string, Overload[]> = {
  "string length": [overload("string: text -> number", ([s]: [string]) => Num.of([...s].length))],
  "upper case": [overload("string: text -> text", ([s]: [string]) => s.toUpperCase())],
  "lower case": [overload("string: text -> text", ([s]: [string]) => s.toLowerCase())],
  substring: [
    overload(
      "string: text, start position: number, length?: number -> text",
      ([s, from, length]: [string, N, N | undefined], at) => {
        const start = int(from);
        const n = length === undefined ? Infinity : int(length);
        const chars = [...s];
        if (start === null || start === 0)
          return at.say("Positions in a text start at 1, or at -1 from its end.");
        if (n === null || n < 1) return at.say("A part of a text has at least one character.");
        if (Math.abs(start) > chars.length)
          return at.say(`The text has ${chars.length} characters; there is no position ${start}.`);
        const first = start > 0 ? start - 1 : chars.length + start;
        return chars.slice(first, n === Infinity ? undefined : first + n).join("");
      },
    ),
  ],
  "substring before": [
    overload("string: text, match: text -> text", ([s, m]: [string, string]) =>
      s.includes(m) ? s.slice(0, s.indexOf(m)) : "",
    ),
  ],
  "substring after": [
    overload("string: text, match: text -> text", ([s, m]: [string, string]) =>
      s.includes(m) ? s.slice(s.indexOf(m) + m.length) : "",
    ),
  ],
  contains: [overload("string: text, match: text -> yesno", ([s, m]: [string, string]) => s.includes(m))],
  "starts with": [
    overload("string: text, match: text -> yesno", ([s, m]: [string, string]) => s.startsWith(m)),
  ],
  "ends with": [overload("string: text, match: text -> yesno", ([s, m]: [string, string]) => s.endsWith(m))],
  matches: [
    overload(
      "input: text, pattern: text, flags?: text? -> yesno",
      ([s, p, f]: [string, string, string | null | undefined], at) =>
        withRegex(p, f ?? "", at, (r) => r.exec([...s], 0, at) !== null),
    ),
  ],
  replace: [
    overload(
      "input: text, pattern: text, replacement: text, flags?: text? -> text",
      ([s, p, by, f]: [string, string, string, string | null | undefined], at) =>
        withRegex(p, f ?? "", at, (r) =>
          (f ?? "").includes("q") && !(f ?? "").includes("i")
            ? literally(s, p, by, at)
            : replaced(s, r, (f ?? "").includes("q") ? by.replace(/[\\$]/g, "\\$&") : by, at),
        ),
    ),
  ],
  split: [
    overload("string: text, delimiter: text -> list of text", ([s, d]: [string, string], at) =>
      withRegex(d, "", at, (r) => split(s, r, at)),
    ),
  ],
  "string join": [
    overload(
      "list: list of text, delimiter?: text?, prefix?: text?, suffix?: text? -> text",
      ([l, d, p, x]: [(string | null)[], string?, string?, string?], at) => {
        const given = l.filter((t) => t !== null);
        if (textSize(given, MAX_TEXT) + given.length * (d?.length ?? 0) > 2 * MAX_TEXT)
          return at.say(TOO_LONG);
        return (p ?? "") + given.join(d ?? "") + (x ?? "");
      },
    ),
  ],
  // Ours: XPath's trim and normalise have no place in the standard, but typed text needs them.
  trim: [overload("string: text -> text", ([s]: [string]) => s.trim())],
  number: [
    overload("from: number -> number", ([n]: [N]) => n),
    overload(
      "from: text -> number",
      ([s]: [string], at) => toNum(s) ?? at.say(`"${s.slice(0, 40)}" is not a number.`),
    ),
    overload(
      "from: text, grouping separator: text?, decimal separator: text? -> number",
      ([s, g, d]: [string, string | null, string | null], at) => {
        if (g !== null && ![" ", ",", "."].includes(g))
          return at.say(`Thousands are set apart by a space, "," or ".".`);
        if (d !== null && d !== "," && d !== ".") return at.say(`Decimals are set apart by "," or ".".`);
        if (g !== null && g === d) return at.say("Thousands and decimals need different marks.");
        const plain = (g === null ? s : s.replaceAll(g, "")).replace(d ?? ".", ".");
        if (d === "," && g !== "." && s.includes(".")) return at.say(`"${s.slice(0, 40)}" is not a number.`);
        return toNum(plain) ?? at.say(`"${s.slice(0, 40)}" is not a number.`);
      },
    ),
  ],
};

import { levelsAt } from "./check";
import type { Scope } from "./types";

/** A name nobody has, written where the caret is to see what could be read there. */
const HERE = "caret0";

/** What may be missing of what is begun before the caret, inside the brackets that are open and behind them. */
const INNER = [
  "",
  " else null",
  " then null else null",
  " and null",
  " return null",
  " satisfies true",
  " in [] return null",
];
const OUTER = ["", " then null else null", " else null", " return null", " satisfies true", " and null"];

/**
 * The names that can be read behind a text that is not whole yet, each with its type: those of the scope, and those that
 * loops, functions, groups of values and filters around that place bring. Found by the one resolver, with the text made
 * whole in the ways that are usual; where none of them can be read, the names of the scope alone.
 */
export function namesAt(ahead: string, scope: Scope): Scope {
  const open = closers(ahead);
  for (const outer of open === "" ? [""] : OUTER)
    for (const inner of INNER) {
      const levels = levelsAt(`${ahead} ${HERE}${inner}${open}${outer}`, scope, HERE);
      if (!levels) continue;
      const names: Record<string, Scope[string]> = {};
      for (const level of [...levels].reverse()) Object.assign(names, level.names);
      // Known to the language, and of use to few.
      delete names["partial"];
      return names;
    }
  return scope;
}

const CLOSES: Readonly<Record<string, string>> = { "(": ")", "[": "]", "{": "}" };

/** The brackets that are open at the end of a text, texts in quotes left out, as they must be closed. */
function closers(text: string): string {
  const open: string[] = [];
  for (const [c] of text.matchAll(/"(?:\\.|[^"\\])*"?|[([{)\]}]/g)) {
    if (CLOSES[c]) open.push(CLOSES[c]);
    else if (c === open.at(-1)) open.pop();
  }
  return open.reverse().join("");
}

import type { Node } from "./ast";
import type { Checking } from "./checking";
import type { Levels } from "./levels";
import { sumType } from "./typeRules";
import { ANY, cap, NUMBER, TEXT, typeInWords, type Type } from "./types";

/** The type of a sum, difference, product, quotient or power. */
export function arithmeticType(c: Checking, n: Extract<Node, { k: "arith" }>, levels: Levels): Type {
  const l = c.typeOf(n.left, levels);
  const r = c.typeOf(n.right, levels);
  if (l.t === "number" && r.t === "number") return NUMBER;
  if (l.t === "any" || r.t === "any" || l.t === "null" || r.t === "null") {
    if (n.op === "+" && (l.t === "text" || r.t === "text")) return TEXT;
    // Only lengths of time can also be multiplied by a number; adding needs a number on both sides.
    return n.op !== "*" && n.op !== "/" && (l.t === "number" || r.t === "number") ? NUMBER : ANY;
  }
  const type = sumType(n.op, l, r);
  if (type) return type;
  if (n.op === "+" && (l.t === "text" || r.t === "text")) {
    const other = l.t === "text" ? n.right : n.left;
    const shown = c.written(other);
    c.say(
      other,
      "wrong-type",
      `Text can only be joined with text; "${shown}" is ${typeInWords(l.t === "text" ? r : l)}.`,
      `string(${shown})`,
    );
    return TEXT;
  }
  if ((l.t === "date" || l.t === "datetime") && r.t === "number" && (n.op === "+" || n.op === "-")) {
    const shown = c.written(n.right);
    const mend = /^\d+$/.test(shown) ? `@"P${shown}D"` : `${shown} * @"P1D"`;
    c.say(
      n.right,
      "wrong-type",
      `A date moves by a length of time, not by a bare number: ${mend} is that many days.`,
      mend,
    );
    return l;
  }
  c.say(n, "wrong-type", `${cap(typeInWords(l))} and ${typeInWords(r)} cannot go together with "${n.op}".`);
  return ANY;
}

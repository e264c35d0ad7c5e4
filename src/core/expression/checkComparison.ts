import type { Node } from "./ast";
import type { Checking } from "./checking";
import type { Levels } from "./levels";
import { nearest } from "./nearest";
import { cap, fits, typeInWords, type Type } from "./types";

/** Whether two values may be held against each other. */
export function checkComparable(c: Checking, n: Node, l: Type, r: Type, equality: boolean) {
  if (equality) c.reads.compared(n, l, r);
  if (!fits(l, r) && !fits(r, l)) {
    c.say(n, "wrong-type", `${cap(typeInWords(l))} cannot be compared with ${typeInWords(r)}.`);
    return;
  }
  const side = l.t === "any" || l.t === "null" ? r : l;
  if (!equality && ["yesno", "context", "list"].includes(side.t))
    c.say(n, "wrong-type", `${cap(typeInWords(side))} has no more or less; only = and != work here.`);
}

/** A test against what it is held to: in a range, one of a list, or equal. */
export function checkTest(c: Checking, test: Node, t: Type, levels: Levels) {
  if (test.k === "test")
    return checkComparable(c, test, t, c.typeOf(test.right, levels), test.op === "=" || test.op === "!=");
  if (test.k === "list" && test.items.some((i) => i.k === "test"))
    return test.items.forEach((i) => checkTest(c, i, t, levels));
  checkChoice(c, t, test);
  const x = c.typeOf(test, levels);
  if (x.t === "yesno" && t.t !== "yesno") return;
  // A list is one of a list of lists, or equal to a list; anything else is one of a list.
  const listed = x.t === "list" && (t.t !== "list" || fits(t, x.of)) ? x.of : x;
  checkComparable(c, test, t, listed.t === "range" && t.t !== "range" ? listed.of : listed, true);
}

/** A choice held against a text that is none of its options never holds. */
export function checkChoice(c: Checking, t: Type, n: Node) {
  if (n.k === "list") n.items.forEach((i) => checkChoice(c, t, i));
  if (t.t !== "text" || !t.options || n.k !== "str" || n.text === "" || t.options.includes(n.text)) return;
  const near = nearest(n.text, t.options);
  c.say(
    n,
    "wrong-type",
    `"${n.text}" is none of its choices: ${t.options.slice(0, 6).join(", ")}${t.options.length > 6 ? ", …" : ""}.`,
    near ? JSON.stringify(near) : undefined,
  );
}

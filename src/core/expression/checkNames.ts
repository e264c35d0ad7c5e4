import type { Node } from "./ast";
import type { Checking } from "./checking";
import { FUNCTIONS } from "./functions";
import type { Level, Levels } from "./levels";
import { nearest } from "./nearest";
import { ownerOf, type Target } from "./resolve";
import { partTypes } from "./typeRules";
import { ANY, listOf, typeInWords, type ContextType, type Type } from "./types";

/** What a name leads to, from the innermost level outwards. */
export function nameType(c: Checking, n: { from: number; to: number; name: string }, levels: Levels): Type {
  if (c.watched?.name === n.name) c.watched.levels ??= levels;
  const read = (target: Target) => c.reads.read({ name: n.name, from: n.from, to: n.to, target });
  let maybe: Level | null = null;
  for (const l of levels) {
    const has = Object.hasOwn(l.names, n.name);
    if (l.open && !(has && n.name === "item")) {
      maybe ??= l;
      continue;
    }
    if (!has) continue;
    if (maybe) break;
    read(l.target(n.name));
    return l.names[n.name]!;
  }
  if (maybe) {
    read({ t: "unknown", outside: true });
    return ANY;
  }
  const fn = FUNCTIONS.get(n.name);
  if (fn) {
    read({ t: "function" });
    // Only where a function is asked for, as in sort(), may a built-in stand without brackets.
    if (!c.functionsWelcome)
      c.say(n, "unknown-name", `"${n.name}" is a function: it needs brackets, ${n.name}(…).`);
    return { t: "function", params: fn.overloads[0]!.params.map((p) => p.type), result: ANY };
  }
  read({ t: "nothing" });
  const near = nearest(
    n.name,
    levels.flatMap((l) => Object.keys(l.names)),
  );
  c.say(
    n,
    "unknown-name",
    `Nothing here is called "${n.name}".${near ? ` Did you mean "${near}"?` : ""}`,
    near ?? undefined,
  );
  return ANY;
}

export function pathType(c: Checking, n: Extract<Node, { k: "path" }>, levels: Levels): Type {
  const at = { from: n.to - n.name.length, to: n.to };
  return entryType(c, c.typeOf(n.of, levels), n.name, at, c.written(n.of));
}

/** The type of an entry read by its name, and what the name leads to (see `Checking.entry`). */
export function entryType(
  c: Checking,
  base: Type,
  name: string,
  at: { from: number; to: number },
  of: string,
  quoted?: true,
): Type {
  const read = (target: Target) => c.reads.read({ name, ...at, target, ...(quoted ? { quoted } : {}) });
  if (base.t === "list") return listOf(entryType(c, base.of, name, at, of, quoted));
  if (base.t === "any" || base.t === "null") {
    read({ t: "unknown", outside: false });
    return ANY;
  }
  if (base.t !== "context") {
    const parts = partTypes(base);
    if (Object.hasOwn(parts, name)) return parts[name]!;
    c.say(at, "unknown-name", `"${of}" is ${typeInWords(base)}; it has no "${name}".`);
    return ANY;
  }
  if (base.open && !(base.among && !Object.hasOwn(base.fields, name))) {
    read({ t: "unknown", outside: false, ...(base.among ? { among: base.among } : {}) });
    return Object.hasOwn(base.fields, name) ? base.fields[name]! : ANY;
  }
  if (Object.hasOwn(base.fields, name)) {
    read({ t: "entry", of: ownerOf(base) });
    return base.fields[name]!;
  }
  return noEntry(c, base, name, at, of, quoted);
}

function noEntry(
  c: Checking,
  base: ContextType,
  name: string,
  at: { from: number; to: number },
  of: string,
  quoted?: true,
): Type {
  c.reads.read({ name, ...at, target: { t: "nothing" }, ...(quoted ? { quoted } : {}) });
  const near = nearest(name, Object.keys(base.fields));
  c.say(
    at,
    "unknown-name",
    `"${of}" has nothing called "${name}".${near ? ` Did you mean "${near}"?` : ""}`,
    // Between its quotes a name is written as it is.
    near ?? undefined,
  );
  return ANY;
}

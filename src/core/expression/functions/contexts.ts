import { COST } from "../meter";
import { ANY } from "../types";
import { isContext, isList, type ContextValue, type Value } from "../values";
import { overload, type CallSite, type Overload } from "./define";

/** DMN 1.5, 10.3.4.10 (table 81). */
function put(c: ContextValue, keys: readonly Value[], value: Value, at: CallSite): ContextValue | null {
  const [key, ...rest] = keys;
  if (typeof key !== "string") return at.say("A key is text.");
  at.spend(c.size * COST.entry);
  const out = new Map(c);
  if (rest.length === 0) return out.set(key, value);
  const inner = c.get(key) ?? new Map<string, Value>();
  if (!isContext(inner)) return at.say(`"${key}" holds no group of values.`);
  const changed = put(inner, rest, value, at);
  return changed && out.set(key, changed);
}

export const CONTEXTS: Record<string, Overload[]> = {
  "get value": [
    overload("m: context, key: text -> any", ([c, k]: [ContextValue, string]) => c.get(k) ?? null),
    overload("m: context, keys: list of text -> any", ([c, keys]: [ContextValue, string[]], at) =>
      keys.length === 0
        ? at.say("The list of keys is empty.")
        : keys.reduce<Value>((v, k) => (isContext(v) ? (v.get(k) ?? null) : null), c),
    ),
  ],
  "get entries": [
    overload(
      "m: context -> list",
      ([c]: [ContextValue], at) => {
        at.spend(c.size * COST.group);
        return [...c].map(
          ([key, value]) =>
            new Map<string, Value>([
              ["key", key],
              ["value", value],
            ]),
        );
      },
      () => ({ t: "list", of: { t: "context", fields: { key: { t: "text" }, value: ANY } } }),
    ),
  ],
  context: [
    overload(
      "entries: list of context -> context",
      ([entries]: [ContextValue[]], at) => {
        at.spend(entries.length * COST.group);
        const out = new Map<string, Value>();
        for (const e of entries) {
          const key = e?.get("key");
          if (typeof key !== "string" || !e.has("value"))
            return at.say(`Each entry needs a key and a value: {key: "a", value: 1}.`);
          if (out.has(key)) return at.say(`"${key}" is there twice.`);
          out.set(key, e.get("value")!);
        }
        return out;
      },
      () => ANY,
    ),
  ],
  "context put": [
    overload(
      "context: context, key: text, value: any -> context",
      ([c, k, v]: [ContextValue, string, Value], at) => put(c, [k], v, at),
      () => ANY,
    ),
    overload(
      "context: context, keys: list of text, value: any -> context",
      ([c, ks, v]: [ContextValue, Value[], Value], at) =>
        isList(ks) && ks.length === 0 ? at.say("The list of keys is empty.") : put(c, ks, v, at),
      () => ANY,
    ),
  ],
  "context merge": [
    overload(
      "contexts: list of context -> context",
      ([cs]: [ContextValue[]], at) => {
        if (cs.some((c) => c === null)) return at.wasEmpty("One of the groups of values is empty.");
        at.spend(cs.reduce((n, c) => n + c.size, 0) * COST.entry);
        return new Map(cs.flatMap((c) => [...c]));
      },
      () => ANY,
    ),
  ],
};

type Json = Readonly<Record<string, unknown>>;

export interface Filling {
  /** Put wherever a formula stands. */
  formula: string;
  /** Put wherever a text with formulas in braces stands. */
  template: string;
  /** Which of several alternatives is taken; asked once for every choice. */
  choose(alternatives: number): number;
  /** A fresh id. */
  id(): string;
}

/**
 * A document that a JSON Schema takes, with every optional property there and one entry in every list, so that no
 * place for a formula is left empty. Lists that nest are empty below the first.
 */
export function fromSchema(
  schema: Json,
  fill: Filling,
  defs: Json = (schema["$defs"] ?? {}) as Json,
): unknown {
  const make = (s: Json, key: string, seen: readonly string[]): unknown => {
    const ref = /^#\/\$defs\/(.+)$/.exec(String(s["$ref"] ?? ""))?.[1];
    if (ref) return make(defs[ref] as Json, key, [...seen, ref]);
    if ("const" in s) return s["const"];
    if (s["enum"]) return (s["enum"] as unknown[])[0];
    const any = (s["anyOf"] ?? s["oneOf"]) as Json[] | undefined;
    if (any) return make(any[fill.choose(any.length) % any.length]!, key, seen);
    if (s["x-formula"]) return fill.formula;
    if (s["x-template"]) return fill.template;
    switch (s["type"]) {
      case "object": {
        const properties = (s["properties"] ?? {}) as Record<string, Json>;
        return Object.fromEntries(Object.entries(properties).map(([k, p]) => [k, make(p, k, seen)]));
      }
      case "array": {
        const items = s["items"] as Json;
        const nested = /^#\/\$defs\/(.+)$/.exec(String(items["$ref"] ?? ""))?.[1];
        return nested && seen.includes(nested) ? [] : [make(items, key, seen)];
      }
      case "string":
        if (Array.isArray(s["examples"])) return s["examples"][0];
        return key === "id" ? fill.id() : "x";
      case "boolean":
        return true;
      case "integer":
      case "number":
        return Math.max(1, Number(s["minimum"] ?? 1));
      case "null":
        return null;
      default:
        throw new Error(`nothing can be made for ${key}: ${JSON.stringify(s).slice(0, 200)}`);
    }
  };
  return make(schema, "", []);
}

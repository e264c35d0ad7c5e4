import { childNodes, type Node } from "./ast";

/** Every place a name is read, with the path of names that leads to it. */
export interface NameUse {
  path: string[];
  from: number;
  to: number;
}

/**
 * All uses of scope names in a tree, longest path first seen: `Lines.Price` is one use ["Lines","Price"].
 * Names bound by `for`, `some` and `every` are followed to what they run over.
 */
export function nameUses(ast: Node): NameUse[] {
  const out: NameUse[] = [];
  const visit = (
    n: Node,
    bound: ReadonlyMap<string, string[] | null>,
    item: string[] | null,
  ): string[] | null => {
    switch (n.k) {
      case "name": {
        if (bound.has(n.name)) return bound.get(n.name)!;
        if (n.name === "item" && item) return item;
        out.push({ path: [n.name], from: n.from, to: n.to });
        // Inside a filter a bare name may be a column of what is filtered: both readings are kept.
        if (item) out.push({ path: [...item, n.name], from: n.from, to: n.to });
        return [n.name];
      }
      case "path": {
        const base = visit(n.of, bound, item);
        if (!base) return null;
        const path = [...base, n.name];
        out.push({ path, from: n.to - n.name.length, to: n.to });
        return path;
      }
      case "filter": {
        const base = visit(n.of, bound, item);
        visit(n.by, bound, base);
        return base;
      }
      case "for":
      case "quant": {
        const inner = new Map(bound);
        for (const i of n.iters) {
          inner.set(i.name, visit(i.in, inner, item));
          if (i.to) visit(i.to, inner, item);
        }
        visit(n.body, inner, item);
        return null;
      }
      default:
        for (const c of childNodes(n)) visit(c, bound, item);
        return null;
    }
  };
  visit(ast, new Map(), null);
  return out;
}

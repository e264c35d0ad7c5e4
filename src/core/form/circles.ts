/** Circles of a graph, each named once from where it was come upon first; each node with those it reads. */
export function circles(graph: ReadonlyMap<string, readonly string[]>): string[][] {
  const out: string[][] = [];
  const done = new Set<string>();
  const visit = (name: string, path: string[]) => {
    const at = path.indexOf(name);
    if (at >= 0) {
      out.push(path.slice(at));
      return;
    }
    if (done.has(name) || !graph.has(name)) return;
    for (const next of new Set(graph.get(name))) visit(next, [...path, name]);
    done.add(name);
  };
  for (const name of graph.keys()) visit(name, []);
  return out;
}

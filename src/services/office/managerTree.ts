/** Somebody with those they manage, by name. */
export interface TreeNode {
  id: string;
  name: string;
  jobTitle: string;
  manages: TreeNode[];
  /** How many stand below them, at whatever depth. */
  below: number;
}

export interface ManagerTree {
  /** Those who manage somebody and have no manager. */
  tops: TreeNode[];
  /** Those who have none and manage nobody: rules by manager find nobody for them. */
  alone: { id: string; name: string; jobTitle: string }[];
  /** Those who stand above themselves, each circle once. Nobody can be set up so; a sheet of old may hold it. */
  circles: string[][];
}

interface Person {
  id: string;
  name: string;
  jobTitle: string;
  manager: string | null;
}

/** People as they manage each other. @param people those who are here; a manager who is not is none */
export function managerTree(people: readonly Person[]): ManagerTree {
  const known = new Map(people.map((p) => [p.id, p]));
  const above = (p: Person): Person | null => (p.manager === null ? null : (known.get(p.manager) ?? null));
  const below = new Map<string, Person[]>();
  for (const p of people) {
    const m = above(p);
    if (m) below.set(m.id, [...(below.get(m.id) ?? []), p]);
  }
  const circles: string[][] = [];
  const settled = new Set<string>();
  for (const p of people) {
    const line: string[] = [];
    let at: Person | null = p;
    while (at && !settled.has(at.id) && !line.includes(at.id)) {
      line.push(at.id);
      at = above(at);
    }
    if (at && line.includes(at.id)) circles.push(line.slice(line.indexOf(at.id)));
    for (const id of line) settled.add(id);
  }
  const round = new Set(circles.flat());
  const node = ({ id, name, jobTitle }: Person): TreeNode => {
    const manages = (below.get(id) ?? [])
      .filter((x) => !round.has(x.id))
      .sort((a, b) => (a.name < b.name ? -1 : 1))
      .map(node);
    return { id, name, jobTitle, manages, below: manages.reduce((n, x) => n + 1 + x.below, 0) };
  };
  const tops = people.filter((p) => !above(p) || round.has(p.id));
  return {
    tops: tops
      .filter((p) => below.has(p.id))
      .map(node)
      .sort((a, b) => b.below - a.below),
    alone: tops.filter((p) => !below.has(p.id)).map(({ id, name, jobTitle }) => ({ id, name, jobTitle })),
    circles,
  };
}

/** Somebody with those they manage, by name. */
export interface TreeNode {
  id: string;
  name: string;
  jobTitle: string;
  /** Empty as well where they stand too deep to be shown. */
  manages: TreeNode[];
  /** How many stand below them, at whatever depth. */
  below: number;
}

export interface ManagerTree {
  /** Those who manage somebody and have no manager. */
  tops: TreeNode[];
  /** Those who have none and manage nobody: rules by manager find nobody for them. */
  alone: Named[];
  /** Those who stand above themselves, each circle once. Nobody can be set up so; a sheet of old may hold it. */
  circles: Named[][];
}
type Named = Pick<TreeNode, "id" | "name" | "jobTitle">;

/** Levels that are shown: a line of thousands would be no tree to look at, and end the page. */
const MOST_LEVELS = 30;

interface Person {
  id: string;
  name: string;
  jobTitle: string;
  manager: string | null;
}

const named = ({ id, name, jobTitle }: Person): Named => ({ id, name, jobTitle });

/** People as they manage each other. @param people those who are here; a manager who is not is none */
export function managerTree(people: readonly Person[]): ManagerTree {
  const known = new Map(people.map((p) => [p.id, p]));
  const above = (p: Person): Person | null => (p.manager === null ? null : (known.get(p.manager) ?? null));
  const below = new Map<string, Person[]>();
  for (const p of people) {
    const m = above(p);
    if (m)
      below
        .set(m.id, below.get(m.id) ?? [])
        .get(m.id)!
        .push(p);
  }
  const circles: Person[][] = [];
  const settled = new Set<string>();
  for (const p of people) {
    const line = new Set<Person>();
    let at: Person | null = p;
    while (at && !settled.has(at.id) && !line.has(at)) {
      line.add(at);
      at = above(at);
    }
    if (at && line.has(at)) circles.push([...line].slice([...line].indexOf(at)));
    for (const { id } of line) settled.add(id);
  }
  const round = new Set(circles.flat());
  const managedBy = (id: string) => (below.get(id) ?? []).filter((x) => !round.has(x));
  /** Counted one by one: however long the line is, no call waits for another. */
  const countBelow = (id: string): number => {
    const todo = managedBy(id);
    let n = 0;
    for (let p = todo.pop(); p; p = todo.pop()) {
      n++;
      for (const x of managedBy(p.id)) todo.push(x);
    }
    return n;
  };
  const node = ({ id, name, jobTitle }: Person, level = 1): TreeNode => {
    const shown = level < MOST_LEVELS ? managedBy(id).sort((a, b) => (a.name < b.name ? -1 : 1)) : [];
    const manages = shown.map((p) => node(p, level + 1));
    const counted = level < MOST_LEVELS ? manages.reduce((n, x) => n + 1 + x.below, 0) : countBelow(id);
    return { id, name, jobTitle, manages, below: counted };
  };
  const tops = people.filter((p) => !above(p) || round.has(p));
  return {
    tops: tops
      .filter((p) => below.has(p.id))
      .map((p) => node(p))
      .sort((a, b) => b.below - a.below),
    alone: tops.filter((p) => !below.has(p.id)).map(named),
    circles: circles.map((c) => c.map(named)),
  };
}

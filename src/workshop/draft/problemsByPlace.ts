import type { Problem } from "@/core/problems";

const NONE: readonly Problem[] = [];
export type ProblemsAt = (kind: Problem["where"]["kind"], id: string) => readonly Problem[];

/**
 * Problems by the row they belong to. Lists that say the same as before stay the same lists, so that rows whose
 * problems have not changed are not drawn anew.
 */
export function problemsByPlace(): (problems: readonly Problem[]) => ProblemsAt {
  let before = new Map<string, readonly Problem[]>();
  return (problems) => {
    const now = new Map<string, Problem[]>();
    for (const p of problems) {
      const key = `${p.where.kind} ${p.where.id}`;
      const list = now.get(key);
      if (list) list.push(p);
      else now.set(key, [p]);
    }
    const kept = new Map<string, readonly Problem[]>();
    for (const [key, list] of now) {
      const old = before.get(key);
      kept.set(key, old && JSON.stringify(old) === JSON.stringify(list) ? old : list);
    }
    before = kept;
    return (kind, id) => kept.get(`${kind} ${id}`) ?? NONE;
  };
}

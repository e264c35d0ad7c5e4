import { rungKind } from "@/core/kinds";
import { tidy, type Edit, type Ladder, type Rung } from "@/core/route";
import { KINDS } from "@/kinds";

/** What can be done to the rungs of a limit, or of a ladder kept by name. */
export interface RungDeeds {
  add(after: string | null, rung: Rung): void;
  set(rung: string, patch: Extract<Edit, { op: "rung.set" }>["patch"]): void;
  remove(rung: string): void;
}

/** Deeds on the rungs of a step's own limit. */
export const deedsOfStep = (step: string, edit: (e: Edit) => unknown): RungDeeds => ({
  add: (after, rung) => void edit({ op: "rung.add", step, after, rung }),
  set: (rung, patch) => void edit({ op: "rung.set", step, rung, patch }),
  remove: (rung) => void edit({ op: "rung.remove", step, rung }),
});

/** Whether a rung gives an answer, which is one step's own. */
export const answers = (r: Rung): boolean => rungKind(KINDS, r.action).answers !== undefined;

/** Deeds on the rungs of a ladder kept by name, which is put whole. */
export function deedsOfLadder(ladder: Ladder, edit: (e: Edit) => unknown): RungDeeds {
  const { rungs } = ladder;
  const put = (next: Rung[]) =>
    void edit({ op: "ladder.put", after: null, ladder: { ...ladder, rungs: next } });
  return {
    add: (after, rung) => put(rungs.toSpliced(rungs.findIndex((r) => r.id === after) + 1, 0, rung)),
    set: (id, patch) => put(rungs.map((r) => (r.id === id ? tidy({ ...r, ...patch } as Rung) : r))),
    remove: (id) => put(rungs.filter((r) => r.id !== id)),
  };
}

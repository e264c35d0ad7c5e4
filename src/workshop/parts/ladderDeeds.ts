import { rungKind } from "@/core/kinds";
import type { Edit, Ladder, Rung } from "@/core/route";
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

/** Deeds on a ladder, which is put whole. */
export function deedsOn(ladder: Ladder, put: (l: Ladder) => void): RungDeeds {
  const withRungs = (rungs: Rung[]) => put({ ...ladder, rungs });
  return {
    add: (after, rung) => {
      const at = after === null ? 0 : ladder.rungs.findIndex((r) => r.id === after) + 1;
      withRungs([...ladder.rungs.slice(0, at), rung, ...ladder.rungs.slice(at)]);
    },
    set: (id, patch) =>
      withRungs(
        ladder.rungs.map((r) => {
          if (r.id !== id) return r;
          const all = { ...r, ...patch };
          return Object.fromEntries(Object.entries(all).filter(([, v]) => v !== null)) as unknown as Rung;
        }),
      ),
    remove: (id) => withRungs(ladder.rungs.filter((r) => r.id !== id)),
  };
}

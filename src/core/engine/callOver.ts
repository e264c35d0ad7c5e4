import { allTasks } from "./callIds";
import { isOpen, type Call } from "./state";

const EMPTIED = {
  data: {},
  changedAt: {},
  outcomes: {},
  kept: {},
  tokens: {},
  visits: {},
  timers: {},
};

/** What is kept of a procedure that has ended: its tasks, for whoever looks for one; all of it while one is still open. */
export function callOver(c: Call): Call | null {
  const { state: s } = c;
  const calls = Object.fromEntries(
    Object.values(s.calls).flatMap((x) => {
      const left = callOver(x);
      return left ? [[x.id, left]] : [];
    }),
  );
  if (allTasks({ ...s, calls }).length === 0) return null;
  if (Object.values(s.tasks).some(isOpen)) return { ...c, over: true, state: { ...s, calls } };
  return { ...c, over: true, state: { ...s, ...EMPTIED, calls } };
}

import { START } from "../route";
import type { Task } from "./state";

/**
 * As whose form a task's is seen: that of its step, or that of whoever asked for the request, who is asked for changes or
 * something about it and need not see what the step's people do.
 */
export const formOf = (t: Pick<Task, "purpose" | "step">): string =>
  t.purpose === "changes" || t.purpose === "question" ? START : t.step;

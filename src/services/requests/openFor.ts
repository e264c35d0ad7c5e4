import { isOpen, levelsOf, type Level, type RequestState, type Task } from "@/core/engine";

/** Tasks of a request that wait for somebody: theirs, or such as they may take; also in procedures. */
export const openFor = (state: RequestState, person: string): { level: Level; t: Task }[] =>
  levelsOf(state).flatMap((level) =>
    Object.values(level.state.tasks)
      .filter(
        (t) =>
          isOpen(t) &&
          t.candidates.some((x) => x.person === person) &&
          (t.holder === null || t.holder === person),
      )
      .map((t) => ({ level, t })),
  );

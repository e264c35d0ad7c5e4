import { startKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";

/** Ids of the fields that starts of a process fill in by themselves. */
export const filledByStarts = (d: Pick<ProcessDefinition, "starts">, kinds: Kinds): ReadonlySet<string> =>
  new Set(
    d.starts.flatMap((s) => {
      const fills = startKind(kinds, s).fills?.(s);
      return fills ? [...(fills.into === null ? [] : [fills.into]), ...fills.values.map((v) => v.field)] : [];
    }),
  );

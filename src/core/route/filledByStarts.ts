import { startKind, type Kinds } from "../kinds";
import type { ProcessDefinition } from "./definition";

/** Ids of the fields that a start fills in by itself. */
export function filledByStart(s: ProcessDefinition["starts"][number], kinds: Kinds): string[] {
  const kind = startKind(kinds, s);
  const [fills, mail] = [kind.fills?.(s), kind.ofMail?.(s)];
  if (mail) return mail.values.map((v) => v.field);
  return fills ? [...(fills.into === null ? [] : [fills.into]), ...fills.values.map((v) => v.field)] : [];
}

/** Ids of the fields that starts of a process fill in by themselves. */
export const filledByStarts = (d: Pick<ProcessDefinition, "starts">, kinds: Kinds): ReadonlySet<string> =>
  new Set(d.starts.flatMap((s) => filledByStart(s, kinds)));

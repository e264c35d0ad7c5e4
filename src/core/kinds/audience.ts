import { isAmong, type StartAudience } from "../form";
import type { Say } from "./say";
import type { Asker } from "./startBehaviour";

/** Whether somebody is one of those who may start a request. */
export const mayBegin = (who: StartAudience, asker: Asker): boolean =>
  isAmong(who, { ...asker, id: "", holds: () => false });

/** As a sentence begins with them: "anybody", "group Conservators", "Registry". */
export function audienceWords(who: StartAudience): string {
  switch (who.by) {
    case "everybody":
      return "anybody";
    case "group":
      return `group ${who.group}`;
    case "department":
      return who.department;
  }
}

/** Says so where a group that may start it has nobody in it. @param groups by key, who is in them; null where unknown */
export function sayEmptyAudience(
  who: StartAudience,
  groups: Readonly<Record<string, readonly string[]>> | null,
  say: Say,
): void {
  if (who.by === "group" && groups && !groups[who.group]?.length)
    say("error", "empty-group", `The group "${who.group}", which may ask, has nobody in it.`, "who");
}

import type { RuleOccasion } from "../form";
import type { RecordChange } from "./recordWrite";

/** What rules and starts call what became of a record. */
export function occasionsOf(did: RecordChange["did"]): readonly RuleOccasion[] {
  switch (did) {
    case "added":
      return ["added", "added or changed"];
    case "changed":
      return ["changed", "added or changed"];
    case "removed":
      return ["removed"];
  }
}

import { laddersUsed, placesOf, type ProcessDefinition, type Step } from "@/core/route";
import { KINDS } from "@/kinds";

/** The steps whose limits go by a ladder, and the same in words: "2 Manager decides, 4 Hand over the key". */
export function ladderUsers(d: ProcessDefinition, ladder: string): { steps: Step[]; said: string } {
  const places = placesOf(d, KINDS);
  const users = (laddersUsed(d, KINDS).get(ladder) ?? []).map((id) => places.get(id)!);
  return { steps: users.map((p) => p.step), said: users.map((p) => `${p.number} ${p.step.name}`).join(", ") };
}

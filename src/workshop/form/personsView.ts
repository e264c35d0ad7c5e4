import type { AccessOf } from "@/core/form";
import { accessAt, readOnly, START, widest, type ProcessDefinition } from "@/core/route";

/** How somebody comes to see the form at a step. */
export type Sight =
  /** It waits for them: they fill in and read what access says. */
  | { as: "asked"; access: AccessOf }
  /** They only read it, as who asked, as an owner, or as both. */
  | { as: "reads"; access: AccessOf; requester: boolean; owner: boolean }
  | { as: "nobody" };

/** Who is who for a sample at a step. */
export interface WhoAt {
  step: string;
  requester: string;
  /** Whom the step asks. */
  asked: readonly string[];
}

/**
 * What one person has of the form at a step, by who they are there; what steps asked of them before is left aside. It is
 * the same as their pages show: whoever asked reads what the start showed, an owner what owners watch.
 */
export function personsView(
  definition: ProcessDefinition,
  { step, requester, asked }: WhoAt,
  person: string,
): Sight {
  // Whoever asked for the request sees nothing of a procedure's own form.
  const isRequester = person === requester && definition.procedure !== true;
  if (step === START)
    return isRequester ? { as: "asked", access: accessAt(definition, START) } : { as: "nobody" };
  if (asked.includes(person)) return { as: "asked", access: accessAt(definition, step) };
  const isOwner = definition.owners.includes(person);
  if (!isRequester && !isOwner) return { as: "nobody" };
  const reads = [
    ...(isRequester ? [accessAt(definition, START)] : []),
    ...(isOwner ? [accessAt(definition, "watch")] : []),
  ];
  return { as: "reads", access: readOnly(widest(reads)), requester: isRequester, owner: isOwner };
}

/** The same in a sentence. */
export function sightText(sight: Sight, name: string, atStart: boolean): string {
  switch (sight.as) {
    case "asked":
      return atStart ? `${name} fills it in.` : `${name} is asked here.`;
    case "reads": {
      const as = [sight.requester ? "whoever asked" : "", sight.owner ? "an owner" : ""].filter(Boolean);
      return `${name} only reads it meanwhile, as ${as.join(" and ")}.`;
    }
    case "nobody":
      return atStart
        ? `Nobody but whoever asks sees it before it is sent.`
        : `Whoever is not asked here, did not ask and is no owner sees nothing of it, unless an earlier step asked them.`;
  }
}

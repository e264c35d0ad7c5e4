import { usesOf as usesIn, type Named } from "@/core/route";
import { getPool, processes } from "@/db";
import { KINDS } from "@/kinds";
import { defineView } from "../kernel/defineUseCase";
import type { UsedBy } from "./whereUsed";

/** Places told of one thing. */
const MOST = 200;

/**
 * Where drafts and live releases name a register, a duty, a group or a calendar; of those processes that one may
 * design, for what others do with them is theirs to know.
 */
export const usesOf = defineView(["design"], async (c, of: Named, key: string): Promise<UsedBy[]> => {
  if (!c.may({ action: "design", owner: true })) return [];
  const naming = await processes.definitionsNaming(getPool(), key);
  const mine = naming.filter((p) => c.may({ action: "design", owner: p.owners.includes(c.actor.id) }));
  return mine
    .flatMap(({ key: process, version, definition }) =>
      usesIn(definition, KINDS, of, key).map(({ number, name }) => ({
        key: process,
        process: definition.name,
        version,
        number,
        step: name,
      })),
    )
    .slice(0, MOST);
});

import { getPool } from "@/db";
import { defineView } from "../kernel/defineUseCase";
import { seenRequest } from "../requests/loadRequest";
import type { Shows } from "./changes";

/**
 * What a page of somebody's shows, as far as ticks go. When a request changes is nobody's business who may not see it,
 * so a page about one listens for it only then.
 * @param path of the page, for example /requests/LOAN-0042
 */
export const showsOf = defineView(["use own", "see request"], async (c, path: string): Promise<Shows> => {
  const person = c.actor.id;
  if (!c.may({ action: "use own", person })) return { person, request: null, anybody: false };
  const number = /^\/(?:requests|desk)\/([^/]+)/.exec(path)?.[1];
  const seen = number ? await seenRequest(c, getPool(), { number }) : null;
  return { person, request: seen?.row.number ?? null, anybody: /^\/(?:progress|registers)\b/.test(path) };
});

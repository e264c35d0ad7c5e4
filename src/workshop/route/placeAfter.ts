import { listsOf, placesOf, type ListRef, type Step } from "@/core/route";
import { KINDS } from "@/kinds";
import type { SheetRow } from "./rows";

/** Where something goes in the route: which list, and behind which step. */
export interface Place {
  to: ListRef;
  after: string | null;
}

/** The place right below a row: at the head of the route, at the head of a list, or behind the step. */
export function placeAfter(row: SheetRow): Place {
  switch (row.kind) {
    case "start":
      return { to: { owner: null, list: null }, after: null };
    case "list":
      return { to: { owner: row.owner.id, list: row.list }, after: null };
    case "step": {
      // Right below an open heading is the first row under it.
      const body = row.under && !row.under.folded ? listsOf(row.step, KINDS)[0] : undefined;
      return body ? { to: { owner: row.id, list: body.id }, after: null } : { to: row.ref, after: row.id };
    }
  }
}

/** The steps of a list; null where it is not there. */
export function stepsOf(route: readonly Step[], ref: ListRef): readonly Step[] | null {
  if (ref.owner === null) return route;
  const owner = placesOf({ route }, KINDS).get(ref.owner)?.step;
  return owner ? (listsOf(owner, KINDS).find((l) => l.id === ref.list)?.steps ?? null) : null;
}

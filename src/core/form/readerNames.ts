import type { Temporal } from "temporal-polyfill";
import type { Value } from "../expression";
import type { Facts } from "./facts";
import { partyValue, type Party } from "./party";

/** What the formulas of a form read beside its fields, for whoever reads it: who asked, and the request itself. */
export const readerNames = (
  { requester, number }: { requester: Party; number: string },
  facts: Facts,
  now: Temporal.ZonedDateTime,
): ReadonlyMap<string, Value> =>
  new Map<string, Value>([
    ["Requester", partyValue(requester, (id) => facts.person(id))],
    [
      "Request",
      new Map<string, Value>([
        ["number", number],
        ["started", now],
      ]),
    ],
  ]);

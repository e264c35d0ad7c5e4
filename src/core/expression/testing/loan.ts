import { Temporal } from "temporal-polyfill";
import { fromPlain } from "../evaluateText";
import { environment } from "../run";
import { context, DATE, listOf, NUMBER, PERSON, TEXT, YESNO, type Scope } from "../types";
import { Entity, type Value } from "../values";

/** Values of a made-up loan, to write formulas about. */
export const STORE = context(
  { id: TEXT, name: TEXT, "risk grade": { t: "text", options: ["low", "high"] }, Keeper: PERSON },
  "stores",
);
export const SCOPE: Scope = {
  Total: NUMBER,
  "Insured value": NUMBER,
  Urgent: YESNO,
  Reason: TEXT,
  Due: DATE,
  Grade: { t: "text", options: ["A", "B", "very good"] },
  Store: STORE,
  Requester: PERSON,
  Items: listOf(context({ Item: TEXT, Quantity: NUMBER, Price: NUMBER })),
};
export const NAMES = new Map<string, Value>(
  Object.entries({
    Total: 612.4,
    "Insured value": null,
    Urgent: false,
    Reason: "frost",
    Grade: "A",
    Items: [
      { Item: "gloves", Quantity: 10, Price: 3.15 },
      { Item: "tissue", Quantity: 2, Price: 14 },
    ],
  }).map(([k, v]) => [k, fromPlain(v)]),
);
NAMES.set(
  "Store",
  new Entity("stores", "4", [
    ["name", "Cold room"],
    ["risk grade", "high"],
  ]),
);
NAMES.set(
  "Requester",
  new Entity("person", "piet", [
    ["name", "Piet Hanlon"],
    ["department", "Conservation"],
  ]),
);
NAMES.set("Due", Temporal.PlainDate.from("2026-03-01"));
export const env = () =>
  environment(NAMES, { now: Temporal.ZonedDateTime.from("2026-02-27T09:30[Europe/Dublin]") });

import { holdersOf } from "@/core/form";
import type { RuleTurn } from "@/core/kinds";
import type { Value } from "@/core/expression";
import { duty } from "./kind";

const HELD = [
  { duty: "Budget holder", person: "una", place: "Finance" },
  { duty: "Budget holder", person: "declan", place: "Learning" },
  { duty: "Budget holder", person: "eithne", place: null },
];
const people = (place: string | undefined, value: Value) => {
  const turn = {
    value: () => value,
    dutyHolders: (d: string, at: string | null) => holdersOf(HELD, d, at),
  } as unknown as RuleTurn;
  return duty.people({ by: "duty", duty: "Budget holder", ...(place === undefined ? {} : { place }) }, turn);
};

describe("who holds a duty", () => {
  it("for a place is whoever holds it there, else everywhere", () => {
    expect(people("Requester.department", "Finance")).toEqual(["una"]);
    expect(people("Requester.department", "Buildings")).toEqual(["eithne"]);
    expect(people("Site", new Map<string, Value>([["name", "Learning"]]))).toEqual(["declan"]);
  });
  it("for a place that comes to nothing is never whoever holds it anywhere", () => {
    for (const nothing of [null, "", new Map<string, Value>()])
      expect(people("Requester.department", nothing)).toEqual(["eithne"]);
  });
  it("without a place is whoever holds it, wherever", () => {
    expect(people(undefined, null)).toEqual(["una", "declan", "eithne"]);
  });
});

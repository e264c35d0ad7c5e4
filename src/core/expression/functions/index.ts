import { textSize, valueText, type Value } from "../values";
import { CONTEXTS } from "./contexts";
import { MAX_TEXT, overload, TOO_LONG, type FormulaFunction, type Overload } from "./define";
import { LISTS } from "./lists";
import { MOMENTS } from "./moments";
import { NUMBERS } from "./numbers";
import { OFFICE } from "./office";
import { RANGES } from "./ranges";
import { TEXTS } from "./texts";

const BASE: Record<string, Overload[]> = {
  not: [overload("negand: any -> yesno", ([v]: [Value]) => (typeof v === "boolean" ? !v : null))],
  string: [
    overload("from: any -> text", ([v]: [Value], at) => {
      if (v === null) return null;
      const size = textSize(v, MAX_TEXT);
      at.spend(Math.min(size, MAX_TEXT));
      if (size > MAX_TEXT) return at.say(TOO_LONG);
      return valueText(v);
    }),
  ],
};

/** The functions of the language (DMN 1.5, 10.3.4) and ours, by the part of the reference they stand in. */
export const SECTIONS: readonly { title: string; of: Record<string, Overload[]> }[] = [
  { title: "Yes and no, conversion", of: BASE },
  { title: "Text", of: TEXTS },
  { title: "Numbers", of: NUMBERS },
  { title: "Lists", of: LISTS },
  { title: "Dates and times", of: MOMENTS },
  { title: "Ranges", of: RANGES },
  { title: "Groups of values", of: CONTEXTS },
  { title: "Office work", of: OFFICE },
];

export const FUNCTIONS: ReadonlyMap<string, FormulaFunction> = new Map(
  SECTIONS.flatMap((s) => Object.entries(s.of)).map(([name, overloads]) => [name, { name, overloads }]),
);
export { coerced, type CallSite, type FormulaFunction, type Overload, type Param } from "./define";

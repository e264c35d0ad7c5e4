import type { TypeName } from "./ast";
import { isDaysTime, isYearsMonths } from "./durations";
import { spend } from "./meter";
import { isNum } from "./numbers";
import { isContext, isDate, isDateTime, isFunction, isList, isRange, isTime, type Value } from "./values";

/** Type names of the language and how people here call them. */
const SIMPLE: Record<string, (v: Value) => boolean> = {
  any: () => true,
  null: (v) => v === null,
  number: isNum,
  string: (v) => typeof v === "string",
  text: (v) => typeof v === "string",
  boolean: (v) => typeof v === "boolean",
  date: isDate,
  time: isTime,
  "date and time": isDateTime,
  "days and time duration": isDaysTime,
  "years and months duration": isYearsMonths,
  list: isList,
  context: isContext,
  range: isRange,
  function: isFunction,
};
export const isTypeName = (name: string): boolean => Object.hasOwn(SIMPLE, typeKey(name));
const typeKey = (name: string) => (name === "Any" || name === "Null" ? name.toLowerCase() : name);

/** `v instance of type` (DMN 1.5, table 49): null is an instance of Any and Null only. */
export function instanceOf(v: Value, type: TypeName): boolean {
  switch (type.t) {
    case "simple": {
      const key = typeKey(type.name);
      if (v === null) return key === "null";
      return Object.hasOwn(SIMPLE, key) && SIMPLE[key]!(v);
    }
    case "list":
      return isList(v) && v.every((x) => fitsIn(x, type.of));
    case "range":
      return isRange(v) && fitsIn(v.low, type.of) && fitsIn(v.high, type.of);
    case "context":
      return isContext(v) && type.fields.every((f) => v.has(f.name) && fitsIn(v.get(f.name)!, f.type));
    // What a function takes and gives is not kept with it; the number of its inputs is.
    case "function":
      return isFunction(v) && v.params.length === type.params.length;
  }
}
/** Parts may be empty whatever their type. */
const fitsIn = (v: Value, type: TypeName): boolean => {
  spend(1);
  return v === null || instanceOf(v, type);
};

import { ITEM, ITEM_NUMBER } from "../document";
import { isContext, toNum, type Names, type Value } from "../expression";

/** The names of a thing of a list before those around it: its entries, itself, and which it is, from 1. */
export const namesInThing = (thing: Value, number: number, outer: Names): Names => ({
  get(name) {
    const own = isContext(thing) ? thing.get(name) : undefined;
    if (own !== undefined) return own;
    if (name === ITEM) return thing;
    return name === ITEM_NUMBER ? toNum(number) : outer.get(name);
  },
});

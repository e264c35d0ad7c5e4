import { context, Entity, TEXT } from "@/core/expression";
import { ADDRESS_PARTS, addressFrom, addressText } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Of no register: its name has a space in it, which keys have not. */
const WHAT = "postal address";
const MOST_LINES = 3;
const LONGEST = { lines: 200, town: 80, postcode: 20, country: 60 };

/** Where a letter goes. Formulas read its parts, and in a text it stands in one line. */
export const postalAddress: FieldBehaviour = {
  type: () =>
    context({ id: TEXT, name: TEXT, ...Object.fromEntries(ADDRESS_PARTS.map((p) => [p, TEXT])) }, WHAT),
  value(_, raw) {
    const a = typeof raw === "string" ? addressFrom(raw) : null;
    if (!a) return null;
    return new Entity(WHAT, String(raw), [
      ["name", addressText(a)],
      ...ADDRESS_PARTS.map((p) => [p, a[p].trim() || null] as const),
    ]);
  },
  settled: (v) => v,
  mistakes(_, raw) {
    const a = typeof raw === "string" ? addressFrom(raw) : null;
    if (!a) return [{ code: "not-a-text", data: { value: String(raw).slice(0, 60) } }];
    const lacking = (["lines", "town"] as const).filter((p) => a[p].trim() === "");
    const words = { lines: "street", town: "town" };
    if (lacking.length > 0)
      return [{ code: "not-a-postal-address", data: { limit: lacking.map((p) => words[p]).join(" and ") } }];
    const long = ADDRESS_PARTS.find((p) => a[p].length > LONGEST[p]);
    if (long)
      return [{ code: "too-long", data: { value: String(a[long].length), limit: String(LONGEST[long]) } }];
    const lines = a.lines.trim().split("\n").length;
    return lines > MOST_LINES
      ? [{ code: "too-many-lines", data: { value: String(lines), limit: String(MOST_LINES) } }]
      : [];
  },
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\b(postal|home|delivery|billing|street)? ?address$/i, rank: 3 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: null,
};

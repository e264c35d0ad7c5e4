import { TEXT } from "@/core/expression";
import { plainCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** The longest an address can be (RFC 5321, 4.5.3.1.3, less its brackets). */
const LONGEST = 254;
/** One address by itself, without a name and without quotes: what an office writes to. */
const ADDRESS = /^[^\s@<>(),;:"\\[\]]+@[^\s@<>(),;:"\\[\].]+(\.[^\s@<>(),;:"\\[\].]+)+$/;

/** An e-mail address. */
export const email: FieldBehaviour = {
  type: () => TEXT,
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes: (_, raw) =>
    typeof raw === "string" && raw.length <= LONGEST && ADDRESS.test(raw)
      ? []
      : [{ code: "not-an-address", data: { value: String(raw).slice(0, LONGEST) } }],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\be ?-?mail( address)?$/i, rank: 0 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell) => plainCell(cell),
};

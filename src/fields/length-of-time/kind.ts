import { DAYS, durationFrom, isDaysTime } from "@/core/expression";
import type { FieldBehaviour } from "@/core/kinds";

/** How long something takes, in days, hours and minutes; kept as ISO 8601 (5.5.2). A month is no length: each is another. */
export const lengthOfTime: FieldBehaviour = {
  type: () => DAYS,
  value(_, raw) {
    const read = typeof raw === "string" ? durationFrom(raw) : null;
    return isDaysTime(read) ? read : null;
  },
  settled: (v) => v,
  mistakes: (_, raw, v) =>
    isDaysTime(v) && v.ns >= 0n ? [] : [{ code: "not-a-length", data: { value: String(raw).slice(0, 60) } }],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\b(duration|length of time|how long)\b/i, rank: 1 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: null,
};

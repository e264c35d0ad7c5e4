import { TEXT } from "@/core/expression";
import { plainCell } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

const LONGEST = 2000;
/** What a browser opens over the web, and nothing that would do anything else when it is pressed. */
const ADDRESS = /^https?:\/\/[^\s/?#@\\<>"']+(\/|\?|#|$)[^\s<>"\\]*$/i;

/** A page on the web. */
export const webAddress: FieldBehaviour = {
  type: () => TEXT,
  value: (_, raw) => (typeof raw === "string" ? raw : null),
  settled: (v) => v,
  mistakes: (_, raw) =>
    typeof raw === "string" && raw.length <= LONGEST && ADDRESS.test(raw)
      ? []
      : [{ code: "not-a-web-address", data: { value: String(raw).slice(0, 200) } }],
  problems: () => undefined,
  has: { options: null, range: null, money: false },
  guess: { words: /\b(web ?site|web ?page|web address|url|home ?page)$/i, rank: 0 },
  idOf: null,
  links: null,
  many: null,
  filler: null,
  cell: (_, cell) => plainCell(cell),
};

import type { Registers } from "../form";
import type { Kinds } from "../kinds";

/** What a definition is read against: the registers it may name, and the kinds it may be made of. */
export interface Surrounding {
  registers: Registers;
  kinds: Kinds;
}

/** What a formula belongs to. `id` is that of the step, field, start, letter, ladder or template; empty for the process. */
export interface FormulaOwner {
  kind: "step" | "field" | "start" | "letter" | "ladder" | "document" | "process";
  id: string;
}

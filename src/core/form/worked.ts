import type { Value } from "../expression";

/** What a formula came to. Where it could not be worked out the value is null, and the reason says so in a sentence. */
export interface Worked {
  value: Value;
  failed: string | null;
  /** It is worked out from itself, or from something that is. */
  circle?: boolean;
}

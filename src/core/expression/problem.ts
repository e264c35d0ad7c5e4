/** A mistake in a formula: where, what in plain words, and how to mend it where that is known. */
export interface FormulaProblem {
  code:
    | "syntax"
    | "unknown-name"
    | "unknown-function"
    | "wrong-type"
    | "wrong-count"
    | "not-supported"
    | "too-long";
  from: number;
  to: number;
  message: string;
  mend?: { label: string; insert: string };
}

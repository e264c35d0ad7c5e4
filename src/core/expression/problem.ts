/** A mistake in a formula: where, what in plain words, and how to mend it where that is known. */
export interface FormulaProblem {
  code:
    | "syntax"
    | "unknown-name"
    | "unknown-function"
    | "wrong-type"
    | "wrong-count"
    | "not-supported"
    | "too-long"
    /** Only a warning: the result can be empty where a value is wanted. */
    | "may-be-empty"
    /** Found while evaluating: this part came to nothing, for this reason. */
    | "no-value"
    /** Found while evaluating: this part came to nothing because something it was given was empty. */
    | "was-empty"
    /** Found while evaluating: a value that is read could not be worked out. */
    | "unclear"
    /** Found while evaluating: a value that is read is worked out from itself. */
    | "circle"
    /** Found while evaluating: a column that is read was not fetched, though it may be there. */
    | "unread"
    | "too-much-work";
  from: number;
  to: number;
  message: string;
  mend?: { label: string; insert: string };
}

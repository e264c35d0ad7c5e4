/** Something that keeps a form from being sent. `path` is field id, or lines/row/column. */
export interface FormProblem {
  code:
    | "needed"
    | "not-a-number"
    | "two-readings"
    | "too-small"
    | "too-large"
    | "too-early"
    | "too-late"
    | "not-a-date"
    | "not-a-time"
    | "not-a-moment"
    | "not-an-address"
    | "not-a-web-address"
    | "not-a-telephone"
    | "not-a-length"
    | "not-a-postal-address"
    | "too-long"
    /** All of it together; `field` holds most. In millions of bytes. */
    | "form-too-large"
    | "not-an-option"
    /** A step offers only some of what could be chosen, and this is none of them. */
    | "not-offered"
    | "check"
    /** It, or when it is shown or needed, or a check of it, cannot be worked out. */
    | "unclear"
    | "too-many-lines"
    | "too-few-lines"
    /** A column that tells rows apart holds the same in another row, `limit`. */
    | "twice"
    | "no-lines"
    | "too-many-decimals"
    | "not-yes-or-no"
    | "not-a-text"
    | "no-person"
    | "no-record"
    /** One or more of several. */
    | "records-gone"
    | "too-many-records"
    | "too-few-records"
    | "too-many-chosen"
    | "no-request"
    | "no-file"
    /** A signature that stands in the form already, or twice. */
    | "signed-elsewhere"
    /** A document is signed there, and this is no signature that was given for it. */
    | "not-signed"
    | "file-too-large"
    | "files-too-large"
    | "too-many-files"
    | "wrong-file";
  path: string;
  /** Other places it is about just as much. */
  also?: string[];
  /** Of a check that may be passed by saying why: what tells it apart. */
  pass?: string;
  data: { field: string; value?: string; limit?: string; say?: string; why?: string; row?: number };
}
export type ValueMistake = Pick<FormProblem, "code"> & { data: { value?: string; limit?: string } };

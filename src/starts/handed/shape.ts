/** A step of another process starts one, with values for the fields that are handed in. */
export interface HandedStart {
  id: string;
  kind: "handed";
  /** Which processes may: all of the office, or those with these keys. */
  from: { by: "any" } | { by: "these"; processes: string[] };
}

import type { StartAudience } from "@/core/form";

/** Somebody presses what the page of a record offers. */
export interface PressStart {
  id: string;
  kind: "press";
  who: StartAudience;
  register: string;
  /** What the button says: "Begin a condition check". */
  says: string;
  /** For which records it is offered; absent for all. */
  when?: string;
  /** Begins at once, without anybody seeing the form first. */
  atOnce?: true;
  /** Id of the look-up field that keeps the record; nobody picks another one there. */
  into?: string;
  /** What else fields of the form begin with, over the record's columns. */
  values: { field: string; value: string }[];
}

import type { Binding } from "@/core/kinds/ports";
import type { StoredValue } from "@/core/kinds/kept";
import type { StepBase } from "@/core/route/stepBase";

/** Starts a request of another process, in the name of whoever asked for this one or of the process itself. */
export interface StartRequest extends StepBase, Binding {
  kind: "start request";
  /** Key of the process; empty until one is chosen. */
  process: string;
  /** Whether the route waits for it to end. */
  waits: boolean;
  /** Whether it is cancelled where nobody waits for it any more, or this request is withdrawn or cancelled. */
  endsWith: boolean;
  /** The process asks by itself; else whoever asked for this request does. */
  asProcess?: true;
}

/** A request to be started; its effect's id is the start key. */
export interface StartRequestWork {
  kind: "start request";
  process: string;
  /** By field of the other process. */
  values: readonly (readonly [string, StoredValue])[];
  waits: boolean;
  endsWith: boolean;
  asProcess?: true;
}
export interface StartRequestResult {
  /** Its number; empty where none was started, because a sample is being followed. */
  number: string;
  /** What it ended with; null where nobody waited for that. */
  result: string | null;
  /** By field, what could be read of it then. */
  values: readonly (readonly [string, StoredValue])[];
}
export type StartRequestReason = { code: "not-started"; data: { step: string; message: string } };

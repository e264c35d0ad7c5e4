/** What every step has. */
export interface StepBase {
  id: string;
  name: string;
  /** A line for whoever reads the sheet; nothing goes by it. */
  note?: string;
  /** What whoever asked reads of a request from here on: see `stagesOf`. */
  stage?: string;
}

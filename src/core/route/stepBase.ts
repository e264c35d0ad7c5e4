/** What every step has. */
export interface StepBase {
  id: string;
  name: string;
  /** A line for whoever reads the sheet; nothing goes by it. */
  note?: string;
}

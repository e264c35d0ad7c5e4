/** What every step has. */
export interface StepBase {
  id: string;
  name: string;
}

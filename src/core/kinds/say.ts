import type { Edit } from "../route/edit";

export interface Mend {
  label: string;
  edit: Edit;
}
/** Reports a problem at the thing being checked; `place` is the property or formula it is about. */
export type Say = (
  severity: "error" | "warning",
  code: string,
  message: string,
  place?: string,
  mend?: Mend,
) => void;

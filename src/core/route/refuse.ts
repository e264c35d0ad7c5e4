import type { EditRefusal } from "./edit";

/** Carries a refusal out of an edit that is being applied; `applyEdit` turns it into a result. */
export class RefusedEdit extends Error {
  constructor(readonly refusal: EditRefusal) {
    super(refusal.code);
  }
}
export const refuse = (refusal: EditRefusal): never => {
  throw new RefusedEdit(refusal);
};

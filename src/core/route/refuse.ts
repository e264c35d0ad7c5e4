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

/** Whether an edit gives just this definition; one that is refused does not. */
export function settles(edit: () => unknown, wanted: unknown): boolean {
  try {
    return JSON.stringify(edit()) === JSON.stringify(wanted);
  } catch (e) {
    if (e instanceof RefusedEdit) return false;
    throw e;
  }
}

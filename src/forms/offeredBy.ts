import type { Field } from "@/core/form";
import type { InputContext } from "./inputContext";
import type { NoneToPick } from "./Picker";

/** Said where the server cannot be asked. */
const UNREACHED: NoneToPick = { none: "What can be chosen could not be looked up. Try again in a moment." };

/**
 * What can be picked by the condition of a field, or from its column, as a picker asks for it; null where it has neither.
 * @param id of the control: of a column `table/row/column`
 */
export function offeredBy(
  { offered }: Pick<InputContext, "offered">,
  field: Field,
  id: string,
):
  | ((search: string) => Promise<Awaited<ReturnType<NonNullable<typeof offered>>>["offered"] | NoneToPick>)
  | null {
  if (!(field.offered || field.among) || !offered) return null;
  const row = id.split("/")[1] ?? null;
  return (search) =>
    offered(field.id, row, search).then(
      (a) => (a.none === null ? a.offered : { none: a.none }),
      () => UNREACHED,
    );
}

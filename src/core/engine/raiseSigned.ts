import {
  fieldsToSign,
  fingerprint,
  flatFields,
  type AccessOf,
  type FormData,
  type SignedDocument,
  type StepForm,
} from "../form";
import type { Turn } from "./turn";

/**
 * Tells of each signature that was given with what was filled in just now, and of what: the fields that whoever gave it was
 * shown, as they stand now. Comes after the event that tells of the values.
 * @param before what stood there before
 * @param at where it was filled in: what can be done there, how it is shown, and which fields are;
 *   what of a document was shown there to be signed
 */
export function raiseSigned(
  turn: Turn,
  before: FormData,
  at: {
    access: AccessOf;
    form: StepForm | undefined;
    shown: ReadonlySet<string>;
    paper?: { field: string; is: SignedDocument } | undefined;
    task?: string;
  },
) {
  // What fills itself in is nobody's signature.
  if (turn.actor === null) return;
  const { definition, kinds, id: release } = turn.release;
  const signs = (kind: keyof typeof kinds.fields) => kinds.fields[kind].signs === true;
  for (const f of flatFields(definition.fields)) {
    const value = turn.state.data[f.id];
    if (!signs(f.kind) || typeof value !== "string" || value === "" || value === before[f.id]) continue;
    const fields = fieldsToSign(definition.fields, at.form, at.access, at.shown, signs);
    turn.raise({
      type: "signed",
      field: f.id,
      value,
      fields,
      hash: fingerprint(definition.fields, turn.state.data, fields, release),
      ...(at.paper?.field === f.id ? { document: at.paper.is } : {}),
      ...(at.task === undefined ? {} : { task: at.task }),
    });
  }
}

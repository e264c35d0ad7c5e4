import type { AccessOf } from "./access";
import { walkFields, type Field } from "./field";
import type { FieldKinds } from "./fieldBehaviour";

/** What of a form people outside may have. */
export interface OpenTo {
  /** They add files. */
  files?: boolean;
  /** They are told who works here. */
  staff?: boolean;
}

/**
 * What somebody outside may have of a form, of what its start shows: they choose nobody who works here and no request of
 * others, read of such only where staff are told by name, and add files only where that is let. Never more than `access`.
 */
export function openAccess(
  fields: readonly Field[],
  access: AccessOf,
  kinds: Pick<FieldKinds, Field["kind"]>,
  to: OpenTo,
): AccessOf {
  const less = new Map<string, "see" | "hide">();
  walkFields(fields, (f) => {
    switch (kinds[f.kind].idOf) {
      case "person":
        less.set(f.id, to.staff ? "see" : "hide");
        return;
      case "request":
        less.set(f.id, "hide");
        return;
      case "file":
        // A signature is drawn, and no file that somebody brings.
        if (!to.files && !kinds[f.kind].signs) less.set(f.id, "see");
        return;
      case "record":
      case null:
    }
  });
  return (id) => {
    const most = access(id);
    const is = less.get(id);
    if (is === undefined || most === "hide") return most;
    return is;
  };
}

import { labelOf, valueChanges, type Field, type ValueChange } from "@/core/form";
import { shownValue } from "./FieldInput";
import type { FormAtHand } from "./useForm";

/** What somebody changed of what was kept before, with both values; nothing where nothing was kept. */
export function ChangesOf({ form, fields }: { form: FormAtHand; fields: readonly Field[] }) {
  if (!form.before || Object.keys(form.before).length === 0) return null;
  const changes = valueChanges(fields, form.before, form.result.data, (id) => form.access(id));
  if (changes.length === 0) return null;
  return (
    <ul className="mb-2 border-l-[3px] border-slate pl-3 text-sm">
      {changes.map((c, i) => (
        <li key={i}>
          <span className="text-soft">{nameOf(c)}: </span>
          {c.what === "value" ? (
            <>
              <s className="text-soft">{shownValue(c.field, c.from, form.facts) || "empty"}</s>
              <span aria-hidden> → </span>
              <span className="sr-only"> becomes </span>
              {shownValue(c.field, c.to, form.facts) || "empty"}
            </>
          ) : (
            c.what.replace("row ", "")
          )}
        </li>
      ))}
    </ul>
  );
}

function nameOf(c: ValueChange): string {
  if (c.what !== "value") return `${labelOf(c.field)}, line ${c.number}`;
  return c.row ? `${labelOf(c.row.of)}, line ${c.row.number}, ${labelOf(c.field)}` : labelOf(c.field);
}

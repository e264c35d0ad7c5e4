import {
  findField,
  type Clash,
  type FactsData,
  type Field,
  type FormData,
  type StoredRow,
} from "@/core/form";
import { shownValue } from "@/forms";
import { Banner, Button } from "@/ui";

interface Props {
  /** Fields and columns that changed, as `field` or `field/column`. */
  changed: readonly string[];
  clashes: readonly Clash[];
  fields: readonly Field[];
  facts: FactsData;
  data: FormData;
  onTake(data: FormData): void;
  onSettle(clash: Clash): void;
}

/** What others changed while this person had the form open; where both changed the same, both values. */
export function Meanwhile({ changed, clashes, fields, facts, data, onTake, onSettle }: Props) {
  if (changed.length === 0) return null;
  const nameOf = (path: string) =>
    path
      .split("/")
      .map((id) => findField(fields, id)?.field.name ?? id)
      .join(": ");
  return (
    <div className="mt-4" role="status">
      <Banner tone="soon">
        <p>
          Changed while you had this open: {changed.map((path) => `“${nameOf(path)}”`).join(", ")}. What you
          typed is kept.
        </p>
        {clashes.length > 0 && (
          <ul className="mt-1">
            {clashes.map((c) => (
              <li
                key={`${c.field}/${c.row ?? ""}/${c.column ?? ""}`}
                className="flex flex-wrap items-center gap-x-3"
              >
                <span>{clashSentence(c, fields, facts, data)}</span>
                {(c.column !== undefined || c.row === undefined) && (
                  <Button
                    small
                    onClick={() => {
                      onTake(withTheirs(data, c));
                      onSettle(c);
                    }}
                  >
                    Take theirs
                  </Button>
                )}
                <Button small look="quiet" onClick={() => onSettle(c)}>
                  {c.row !== undefined && c.column === undefined ? "Keep the row" : "Keep mine"}
                </Button>
              </li>
            ))}
          </ul>
        )}
      </Banner>
    </div>
  );
}

function clashSentence(c: Clash, fields: readonly Field[], facts: FactsData, data: FormData): string {
  const field = findField(fields, c.field)?.field;
  const shown = (f: Field | undefined, v: Clash["mine"]) => {
    const text = f ? shownValue(f, v, facts) : "";
    return text === "" ? "empty" : `“${text}”`;
  };
  if (c.row === undefined)
    return `“${field?.name}” is ${shown(field, c.theirs)} now; you have ${shown(field, c.mine)}.`;
  const rows = data[c.field];
  const at = Array.isArray(rows) ? rows.findIndex((r) => r["#"] === c.row) + 1 : 0;
  const line = `“${field?.name}”, line ${at}`;
  if (c.column === undefined)
    return c.theirs === null
      ? `${line}: somebody took it away, and you changed it.`
      : `${line}: you took it away, and somebody changed it.`;
  const column = findField(fields, c.column)?.field;
  return `${line}: “${column?.name}” is ${shown(column, c.theirs)} now; you have ${shown(column, c.mine)}.`;
}

function withTheirs(data: FormData, c: Clash): FormData {
  if (c.row === undefined || c.column === undefined) return { ...data, [c.field]: c.theirs };
  const rows = data[c.field];
  const put = (r: StoredRow): StoredRow =>
    r["#"] === c.row ? ({ ...r, [c.column!]: c.theirs } as StoredRow) : r;
  return Array.isArray(rows) ? { ...data, [c.field]: rows.map(put) } : data;
}

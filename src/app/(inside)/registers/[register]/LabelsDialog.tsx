"use client";
import { useState } from "react";
import { gridMistake, MOST_LABELS, sheetsOf, type LabelGrid } from "@/core/paper";
import { Button, classes, Dialog, Field, LabelPage } from "@/ui";

interface Props {
  register: string;
  /** The parameters of the list's address. */
  view: string;
  /** What one of them is called. */
  one: string;
  /** How many there are; where they are more than are counted, that many. */
  total: number;
  /** The first of them, cell by cell as they are shown. */
  first: readonly (readonly string[])[];
  onClose(): void;
}

const FIELDS: readonly { key: keyof LabelGrid; label: string }[] = [
  { key: "across", label: "Labels across" },
  { key: "down", label: "Labels down" },
  { key: "skip", label: "Used already" },
  { key: "margin", label: "Margin in mm" },
];
const USUAL = { across: "3", down: "8", skip: "0", margin: "8" };
/** How the sheets of whoever works here were parted last, in this browser; what is used of one is another each time. */
const KEPT = "label-sheet";

function keptGrid(): Record<keyof LabelGrid, string> {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEPT) ?? "{}");
    const of = (key: string) => (kept as Record<string, unknown> | null)?.[key];
    const text = (key: "across" | "down" | "margin") =>
      typeof of(key) === "string" ? String(of(key)) : USUAL[key];
    return { across: text("across"), down: text("down"), skip: USUAL.skip, margin: text("margin") };
  } catch {
    return USUAL;
  }
}

/** Labels of what is found: how their sheets are parted, beside the first sheet as it will be. */
export function LabelsDialog({ register, view, one, total, first, onClose }: Props) {
  const [typed, setTyped] = useState(keptGrid);
  const number = (text: string) => (text.trim() === "" ? Number.NaN : Number(text));
  const grid: LabelGrid = {
    across: number(typed.across),
    down: number(typed.down),
    skip: number(typed.skip),
    margin: number(typed.margin),
  };
  const tooMany =
    total > MOST_LABELS
      ? `At most ${MOST_LABELS.toLocaleString("en")} labels are printed at once. Narrow the list down first.`
      : null;
  const wrong = gridMistake(grid) ?? tooMany;
  const sheets = wrong ? 0 : sheetsOf(total, grid);
  const save = () => {
    if (wrong) return;
    try {
      localStorage.setItem(KEPT, JSON.stringify(typed));
    } catch {
      // Without room in the browser it is asked for again next time.
    }
    const q = new URLSearchParams(view);
    q.set("format", "labels");
    for (const { key } of FIELDS) q.set(key, typed[key].trim());
    window.location.assign(`/api/registers/${register}?${q}`);
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Labels" wide>
      <form
        className="grid gap-6 sm:grid-cols-[minmax(0,1fr)_15rem]"
        onSubmit={(e) => {
          e.preventDefault();
          save();
        }}
      >
        <div>
          <p className="mb-3 text-soft">
            One for each {one} that is found, with the columns that are shown: the first in bold, the others
            below it. What does not fit on a label ends with an ellipsis.
          </p>
          <div className="grid grid-cols-2 gap-3">
            {FIELDS.map(({ key, label }) => (
              <Field key={key} label={label}>
                {(parts) => (
                  <input
                    {...parts}
                    className="input"
                    inputMode="numeric"
                    maxLength={6}
                    value={typed[key]}
                    onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
                  />
                )}
              </Field>
            ))}
          </div>
          <p role="status" className={classes("mt-3 mb-4 min-h-6", wrong ? "text-brick" : "text-soft")}>
            {wrong ?? `${countOf(total, "label")} on ${countOf(sheets, "sheet")} of A4.`}
          </p>
          <span className="flex gap-2">
            <Button look="main" type="submit" aria-disabled={wrong !== null}>
              Make the PDF
            </Button>
            <Button look="quiet" onClick={onClose}>
              Cancel
            </Button>
          </span>
        </div>
        {!gridMistake(grid) && <LabelPage {...grid} first={first} total={total} />}
      </form>
    </Dialog>
  );
}

const countOf = (n: number, what: string): string => `${n.toLocaleString("en")} ${what}${n === 1 ? "" : "s"}`;

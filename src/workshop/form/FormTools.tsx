"use client";
import { Plus, Search } from "lucide-react";
import type { FieldKind } from "@/core/form";
import { Button, Select } from "@/ui";
import type { AccessStep } from "./AccessCells";
import type { FieldFilter } from "./fieldFilter";

export interface Looked {
  text: string;
  filter: FieldFilter | null;
}
const PLAIN: Readonly<Record<Exclude<FieldFilter["by"], "edit" | "hide">, string>> = {
  needed: "needed ones",
  rules: "with rules and checks",
  worked: "with formulas for their value",
  personal: "personal ones",
  problems: "with something wrong",
};
const keyOf = (f: FieldFilter | null): string => {
  if (!f) return "";
  return "step" in f ? `${f.by} ${f.step}` : f.by;
};

/** What stands over the form sheet: new rows, which rows are looked at, who sees what. */
export function FormTools({
  add,
  looked,
  onLook,
  steps,
  showAccess,
  onAccess,
  folds,
}: {
  add(kind: FieldKind): void;
  looked: Looked;
  onLook(next: Looked): void;
  steps: readonly AccessStep[];
  showAccess: boolean;
  onAccess(show: boolean): void;
  /** Whether all groups are folded, and what folds or unfolds them; null where there are none. */
  folds: { all: boolean; toggle(): void } | null;
}) {
  const filters: { value: string; label: string; filter: FieldFilter }[] = [
    ...(Object.keys(PLAIN) as (keyof typeof PLAIN)[]).map((by) => ({
      value: by,
      label: PLAIN[by],
      filter: { by },
    })),
    ...(["edit", "hide"] as const).flatMap((by) =>
      steps.map((s) => ({
        value: `${by} ${s.id}`,
        label: `${by === "edit" ? "filled in" : "hidden"} at ${s.number} ${s.name}`,
        filter: { by, step: s.id },
      })),
    ),
  ];
  const picked = keyOf(looked.filter);
  return (
    <div className="mb-1.5 flex flex-wrap items-center gap-2 pr-3">
      <Button small onClick={() => add("text")}>
        <Plus size={14} aria-hidden /> Field
      </Button>
      <Button small look="quiet" onClick={() => add("section")}>
        Section
      </Button>
      <Button small look="quiet" onClick={() => add("page")}>
        Page
      </Button>
      <Button small look="quiet" onClick={() => add("lines")}>
        Line items
      </Button>
      <Button
        small
        look="quiet"
        aria-pressed={showAccess}
        onClick={() => onAccess(!showAccess)}
        className={showAccess ? "!bg-slate-wash" : ""}
      >
        Who sees what
      </Button>
      {folds && (
        <Button small look="quiet" onClick={folds.toggle}>
          {folds.all ? "Unfold all" : "Fold all"}
        </Button>
      )}
      <span className="ml-auto flex items-center gap-1.5 text-sm">
        <span className="relative">
          <Search size={13} aria-hidden className="absolute top-2 left-2 text-faint" />
          <input
            type="search"
            aria-label="Look for fields by name"
            placeholder="Name"
            maxLength={60}
            className="input !min-h-7 !w-28 !py-0 !pl-7"
            value={looked.text}
            onChange={(e) => onLook({ ...looked, text: e.target.value })}
            onKeyDown={(e) => {
              if (e.key === "Escape") onLook({ ...looked, text: "" });
            }}
          />
        </span>
        <Select
          aria-label="Which fields"
          className="!min-h-7 !w-auto max-w-36 !py-0"
          value={filters.some((f) => f.value === picked) ? picked : ""}
          empty="All fields"
          onPick={(value) =>
            onLook({ ...looked, filter: filters.find((f) => f.value === value)?.filter ?? null })
          }
          options={filters}
        />
      </span>
    </div>
  );
}

"use client";
import { useMemo } from "react";
import { recordScope } from "@/core/form";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import {
  Chip,
  FillsChip,
  HoldsRow,
  RegisterRow,
  startRow,
  TextCell,
  useDraft,
  without,
} from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
import { farText } from "./kind";
import type { DateStart } from "./shape";

const WAYS = [
  { value: "before", label: "before it" },
  { value: "after", label: "after it" },
];

const UNITS = [
  { value: "all", label: "days" },
  { value: "working", label: "working days" },
  { value: "hours", label: "hours" },
  { value: "minutes", label: "minutes" },
];

/** Which date of which records starts it, how many days away, and what their values fill in. */
export function Editor({ start, onChange }: StartEditorProps<"date">) {
  const registers = useDraft((d) => d.office.registers);
  const shape = registers[start.register];
  const around = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const scope = useMemo(() => (shape ? recordScope(shape, around) : {}), [shape, around]);
  const dates = shape?.columns.filter((c) => c.kind === "date" || c.kind === "date and time") ?? [];
  const column = dates.find((c) => c.id === start.column);
  const put = (patch: Partial<DateStart>) => onChange({ ...start, ...patch });
  const n = Math.abs(start.days);
  const way = start.days < 0 ? "before" : "after";
  const unit = start.clock ?? (start.working ? "working" : "all");
  /** Counted as the column can be: days from a day, hours or minutes from a moment. */
  const counted = (s: DateStart, by: string): DateStart => {
    const rest = without(without(s, "clock"), "working");
    if (by === "hours" || by === "minutes") return { ...rest, clock: by };
    return by === "working" ? { ...rest, working: true } : rest;
  };
  const pickColumn = (id: string) => {
    const moment = shape?.columns.find((c) => c.id === id)?.kind === "date and time";
    if (moment === (start.clock !== undefined)) put({ column: id });
    else onChange(counted({ ...start, column: id }, moment ? "hours" : "all"));
  };
  const units = UNITS.filter(
    (u) => (column?.kind === "date and time") === (u.value === "hours" || u.value === "minutes"),
  );
  const which = start.when ? `, where ${start.when}` : "";
  const text = `${farText(start)} ${column ? `${column.name} of ${shape!.name}` : "a date of no register yet"}${start.clock ? "" : `, at ${start.at}`}${which}`;
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      By itself
      <Chip text={text} label="Which date starts it" empty={!column} width={600}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            <RegisterRow
              says="A record of"
              register={start.register}
              onPick={(register) => onChange({ ...without(start, "into"), register, column: "", values: [] })}
            />
            <label className={startRow}>
              <span className="text-soft">by its</span>
              <Select
                value={start.column}
                empty={dates.length > 0 ? "Choose…" : "it has no dates"}
                onPick={pickColumn}
                options={dates.map((c) => ({ value: c.id, label: c.name }))}
              />
            </label>
            <div className={startRow}>
              <span className="text-soft">how far</span>
              <span className="flex flex-wrap items-center gap-2">
                <TextCell
                  className="input w-20"
                  inputMode="numeric"
                  aria-label="How many before or after it, up to 3660"
                  value={String(n)}
                  onCommit={(t) => {
                    if (!/^\d{1,4}$/.test(t.trim()) || Number(t) > 3660) return false;
                    put({ days: way === "before" ? -Number(t) || 0 : Number(t) });
                    return true;
                  }}
                />
                <Select
                  className="!w-36"
                  aria-label="What is counted"
                  value={unit}
                  onPick={(v) => onChange(counted(start, v))}
                  options={units}
                />
                <Select
                  className="!w-32"
                  aria-label="Before or after the date"
                  value={way}
                  onPick={(v) => put({ days: v === "before" ? -n || 0 : n })}
                  options={WAYS}
                />
                {!start.clock && (
                  <>
                    <span className="text-soft">at</span>
                    <input
                      type="time"
                      className="input !w-32"
                      aria-label="At which time"
                      value={start.at}
                      onChange={(e) => e.target.value && put({ at: e.target.value.slice(0, 5) })}
                    />
                  </>
                )}
              </span>
            </div>
            <HoldsRow
              says="Where"
              placeholder="always; or over its columns"
              when={start.when}
              scope={scope}
              onCommit={(t) => onChange({ ...without(start, "when"), ...(t ? { when: t } : {}) })}
            />
            <label className={startRow}>
              <span className="text-soft">For the same date</span>
              <Select
                value={start.again ? "again" : ""}
                onPick={(v) =>
                  onChange({ ...without(start, "again"), ...(v ? { again: true as const } : {}) })
                }
                options={[
                  { value: "", label: "not again" },
                  { value: "again", label: "again, where it is set once more" },
                ]}
              />
            </label>
            <label className={startRow}>
              <span className="text-soft">Set too late</span>
              <Select
                value={start.late ?? ""}
                onPick={(v) =>
                  onChange({ ...without(start, "late"), ...(v ? { late: "never" as const } : {}) })
                }
                options={[
                  { value: "", label: "it starts at once" },
                  { value: "never", label: "it starts nothing" },
                ]}
              />
            </label>
          </div>
        )}
      </Chip>
      {shape && (
        <FillsChip
          shape={shape}
          scope={scope}
          keeps
          into={start.into}
          values={start.values}
          onInto={(into) => onChange({ ...without(start, "into"), ...(into ? { into } : {}) })}
          onValues={(values) => put({ values })}
        />
      )}
    </span>
  );
}

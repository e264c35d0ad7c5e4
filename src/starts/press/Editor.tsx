"use client";
import { useMemo } from "react";
import { recordScope } from "@/core/form";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import {
  AudienceChoice,
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
import type { PressStart } from "./shape";

/** Who presses what on which records, and what their values fill in. */
export function Editor({ start, onChange }: StartEditorProps<"press">) {
  const registers = useDraft((d) => d.office.registers);
  const shape = registers[start.register];
  const around = useMemo(() => ({ registers, kinds: KINDS }), [registers]);
  const scope = useMemo(() => (shape ? recordScope(shape, around) : {}), [shape, around]);
  const put = (patch: Partial<PressStart>) => onChange({ ...start, ...patch });
  const says = start.says ? `“${start.says}”` : "a button";
  const which = start.when ? `, where ${start.when}` : "";
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      Pressed:
      <Chip
        text={`${says} on ${shape ? `each ${shape.one} of ${shape.name}` : "a record of no register yet"}${which}`}
        label="What is pressed on which records"
        empty={!shape || !start.says}
        width={600}
      >
        {() => (
          <div className="grid gap-1.5 text-sm">
            <RegisterRow
              says="On the page of"
              register={start.register}
              onPick={(register) => onChange({ ...without(start, "into"), register, values: [] })}
            />
            <div className={startRow}>
              <span className="text-soft">the button says</span>
              <TextCell
                className="input"
                aria-label="What the button says"
                placeholder="e.g. Begin a condition check"
                value={start.says}
                onCommit={(t) => {
                  if (t.trim().length > 60) return false;
                  put({ says: t.trim() });
                  return true;
                }}
              />
            </div>
            <HoldsRow
              says="offered where"
              placeholder="always; or over its columns"
              when={start.when}
              scope={scope}
              onCommit={(t) => onChange({ ...without(start, "when"), ...(t ? { when: t } : {}) })}
            />
            <div className={startRow}>
              <span className="text-soft">to</span>
              <AudienceChoice who={start.who} onChange={(who) => put({ who })} />
            </div>
            <label className={startRow}>
              <span className="text-soft">Pressing it</span>
              <Select
                value={start.atOnce ? "at once" : "form"}
                onPick={(v) =>
                  onChange({ ...without(start, "atOnce"), ...(v === "at once" ? { atOnce: true } : {}) })
                }
                options={[
                  { value: "form", label: "opens the form with the record filled in" },
                  { value: "at once", label: "starts a request at once" },
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

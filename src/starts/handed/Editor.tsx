"use client";
import { Select } from "@/ui";
import { useDraft } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";

/** Which processes may start one. */
export function Editor({ start, onChange }: StartEditorProps<"handed">) {
  const { others } = useDraft((d) => d.office);
  const { from } = start;
  const named = from.by === "these" ? from.processes : [];
  const put = (processes: string[]) => onChange({ ...start, from: { by: "these", processes } });
  const left = others.filter((p) => !named.includes(p.key));
  return (
    <span className="flex flex-wrap items-center gap-x-1.5 gap-y-1">
      Handed its values by
      <Select
        look="cell"
        className="!w-56"
        aria-label="Which processes may start one"
        value={from.by}
        onPick={(by) => (by === "any" ? onChange({ ...start, from: { by: "any" } }) : put([]))}
        options={[
          { value: "any", label: "a step of any process" },
          { value: "these", label: "a step of these processes" },
        ]}
      />
      {named.map((key) => (
        <span key={key} className="inline-flex items-center gap-1 rounded border border-line px-1.5 py-0.5">
          {others.find((p) => p.key === key)?.name ?? key}
          <button
            type="button"
            className="text-soft underline"
            aria-label={`remove ${others.find((p) => p.key === key)?.name ?? key}`}
            onClick={() => put(named.filter((k) => k !== key))}
          >
            remove
          </button>
        </span>
      ))}
      {from.by === "these" && left.length > 0 && (
        <Select
          look="cell"
          className="!w-40"
          aria-label="Add a process"
          value=""
          empty="add a process"
          onPick={(key) => put([...named, key])}
          options={left.map((p) => ({ value: p.key, label: p.name }))}
        />
      )}
    </span>
  );
}

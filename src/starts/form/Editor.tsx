"use client";
import { useDraft } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
import { Select } from "@/ui";
import type { FormStart } from "./shape";

/** Who may ask. */
export function Editor({ start, onChange }: StartEditorProps<"form">) {
  const { office } = useDraft();
  const groups = office.data.groups;
  const put = (who: FormStart["who"]) => onChange({ ...start, who });
  const blank = (by: string): FormStart["who"] => {
    if (by === "group") return { by, group: groups[0]?.key ?? "" };
    return by === "department" ? { by, department: office.departments[0] ?? "" } : { by: "everybody" };
  };
  return (
    <span className="flex flex-wrap gap-2">
      <Select
        className="!w-52"
        aria-label="Who may ask"
        value={start.who.by}
        onPick={(value) => put(blank(value))}
        options={[
          { value: "everybody", label: "everybody signed in" },
          { value: "group", label: "a group" },
          { value: "department", label: "a department" },
        ]}
      />
      {start.who.by === "group" && (
        <Select
          className="!w-52"
          aria-label="Group"
          value={start.who.group}
          onPick={(value) => put({ by: "group", group: value })}
          options={groups.map((g) => ({ value: g.key, label: g.key }))}
        />
      )}
      {start.who.by === "department" && (
        <Select
          className="!w-52"
          aria-label="Department"
          value={start.who.department}
          onPick={(value) => put({ by: "department", department: value })}
          options={office.departments}
        />
      )}
    </span>
  );
}

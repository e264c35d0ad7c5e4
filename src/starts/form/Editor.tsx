"use client";
import { useDraft } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
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
      <select
        className="input !w-52"
        aria-label="Who may ask"
        value={start.who.by}
        onChange={(e) => put(blank(e.target.value))}
      >
        <option value="everybody">everybody signed in</option>
        <option value="group">a group</option>
        <option value="department">a department</option>
      </select>
      {start.who.by === "group" && (
        <select
          className="input !w-52"
          aria-label="Group"
          value={start.who.group}
          onChange={(e) => put({ by: "group", group: e.target.value })}
        >
          {groups.map((g) => (
            <option key={g.key} value={g.key}>
              {g.key}
            </option>
          ))}
        </select>
      )}
      {start.who.by === "department" && (
        <select
          className="input !w-52"
          aria-label="Department"
          value={start.who.department}
          onChange={(e) => put({ by: "department", department: e.target.value })}
        >
          {office.departments.map((x) => (
            <option key={x}>{x}</option>
          ))}
        </select>
      )}
    </span>
  );
}

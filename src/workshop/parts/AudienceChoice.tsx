"use client";
import type { StartAudience } from "@/core/form";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";

/** Who may start: everybody signed in, a group, a department. */
export function AudienceChoice(p: {
  who: StartAudience;
  onChange(who: StartAudience): void;
  /** In a sentence: no frame until it is pointed at. */
  plain?: true;
}) {
  const look = p.plain ? "cell" : "input";
  const office = useDraft((d) => d.office);
  const groups = office.data.groups;
  const blank = (by: string): StartAudience => {
    if (by === "group") return { by, group: groups[0]?.key ?? "" };
    return by === "department" ? { by, department: office.departments[0] ?? "" } : { by: "everybody" };
  };
  return (
    <span className="flex flex-wrap gap-2">
      <Select
        look={look}
        className="!w-52"
        aria-label="Who may ask"
        value={p.who.by}
        onPick={(value) => p.onChange(blank(value))}
        options={[
          { value: "everybody", label: "everybody signed in" },
          { value: "group", label: "a group" },
          { value: "department", label: "a department" },
        ]}
      />
      {p.who.by === "group" && (
        <Select
          look={look}
          className="!w-52"
          aria-label="Group"
          value={p.who.group}
          onPick={(value) => p.onChange({ by: "group", group: value })}
          options={groups.map((g) => ({ value: g.key, label: g.key }))}
        />
      )}
      {p.who.by === "department" && (
        <Select
          look={look}
          className="!w-52"
          aria-label="Department"
          value={p.who.department}
          onPick={(value) => p.onChange({ by: "department", department: value })}
          options={office.departments}
        />
      )}
    </span>
  );
}

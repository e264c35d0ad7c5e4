"use client";
import type { Audience } from "@/core/form";
import type { RightsPage } from "@/services";
import { Button, Select } from "@/ui";
import { PersonPicker } from "../../../../shell/PersonPicker";

type By = Audience["by"];
const BY: { value: By; label: string }[] = [
  { value: "everybody", label: "everybody signed in" },
  { value: "department", label: "a department" },
  { value: "group", label: "a group" },
  { value: "duty", label: "whoever holds a duty" },
  { value: "person", label: "a person" },
];

/** What an audience may be chosen from, and what people are called. */
export type Office = Pick<RightsPage, "groups" | "departments" | "duties" | "people">;

/** An audience in words. */
export function audienceText(a: Audience, office: Office): string {
  switch (a.by) {
    case "everybody":
      return "everybody";
    case "department":
      return a.department;
    case "group":
      return office.groups.find((g) => g.key === a.group)?.name ?? a.group;
    case "duty":
      return a.duty;
    case "person":
      return office.people[a.person] ?? a.person;
  }
}

/** Those whose names are known without looking anybody up. */
export const peopleKnown = (office: Pick<Office, "people">): { id: string; name: string }[] =>
  Object.entries(office.people).map(([id, name]) => ({ id, name }));

function blank(by: By, office: Office): Audience {
  switch (by) {
    case "everybody":
      return { by };
    case "department":
      return { by, department: office.departments[0] ?? "" };
    case "group":
      return { by, group: office.groups[0]?.key ?? "" };
    case "duty":
      return { by, duty: office.duties[0] ?? "" };
    case "person":
      return { by, person: "" };
  }
}

interface Props {
  /** What is seen: "Objects", "Insured value". */
  of: string;
  list: readonly Audience[];
  office: Office;
  onChange(list: Audience[]): void;
  /** Somebody was picked who is called so. */
  onPerson(id: string, name: string): void;
}

/** Who sees something: any of several audiences, one a row. */
export function AudienceList({ of, list, office, onChange, onPerson }: Props) {
  const put = (i: number, ...by: Audience[]) => onChange(list.flatMap((a, k) => (k === i ? by : [a])));
  return (
    <div className="grid gap-1.5">
      {list.length === 0 && <p className="text-soft">Nobody but those who look after it.</p>}
      {list.map((a, i) => (
        <div key={i} className="flex flex-wrap items-center gap-2">
          <Select
            className="!w-52"
            aria-label={`Who sees ${of}, ${i + 1}`}
            value={a.by}
            onPick={(by) => put(i, blank(by as By, office))}
            options={BY}
          />
          <Which
            a={a}
            of={`${of}, ${i + 1}`}
            office={office}
            onChange={(x) => put(i, x)}
            onPerson={onPerson}
          />
          <Button
            small
            look="quiet"
            aria-label={`Remove ${audienceText(a, office)} from who sees ${of}`}
            onClick={() => put(i)}
          >
            Remove
          </Button>
        </div>
      ))}
      <div>
        <Button
          small
          aria-label={`Add who else sees ${of}`}
          onClick={() => onChange([...list, blank(list.length === 0 ? "everybody" : "department", office)])}
        >
          Add
        </Button>
      </div>
    </div>
  );
}

function Which({
  a,
  of,
  office,
  onChange,
  onPerson,
}: { a: Audience; onChange(a: Audience): void } & Pick<Props, "of" | "office" | "onPerson">) {
  switch (a.by) {
    case "everybody":
      return null;
    case "department":
      return (
        <Select
          className="!w-60"
          aria-label={`Department that sees ${of}`}
          value={a.department}
          onPick={(department) => onChange({ ...a, department })}
          options={office.departments}
        />
      );
    case "group":
      return (
        <Select
          className="!w-60"
          aria-label={`Group that sees ${of}`}
          value={a.group}
          onPick={(group) => onChange({ ...a, group })}
          options={office.groups.map((g) => ({ value: g.key, label: g.name }))}
        />
      );
    case "duty":
      return (
        <Select
          className="!w-60"
          aria-label={`Duty that sees ${of}`}
          value={a.duty}
          onPick={(duty) => onChange({ ...a, duty })}
          options={office.duties}
        />
      );
    case "person":
      return (
        <div className="w-60">
          <PersonPicker
            id={`person-${of.replace(/\W+/g, "-")}`}
            label={`Person who sees ${of}`}
            value={a.person || null}
            also={peopleKnown(office)}
            placeholder="Choose somebody…"
            onPick={(p) => {
              if (p) onPerson(p.id, p.name);
              onChange({ ...a, person: p?.id ?? "" });
            }}
          />
        </div>
      );
  }
}

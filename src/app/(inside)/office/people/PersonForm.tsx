"use client";
import { useRouter } from "next/navigation";
import { useId, useState, useTransition } from "react";
import type { PersonInput } from "@/contracts";
import { Banner, Button, Select } from "@/ui";
import { addPersonAction, changePersonAction } from "../../../actions/people";
import { say } from "../../../shell/say";
import { PersonPicker } from "../../../shell/PersonPicker";
import { useProof } from "../../../shell/useProof";

interface Choices {
  people: { id: string; name: string; jobTitle: string }[];
  calendars: { key: string; name: string }[];
  departments: string[];
  sites: string[];
}

/** What the office says of somebody; `id` is null for somebody new. */
export function PersonForm({
  id,
  said,
  choices,
}: {
  id: string | null;
  said: PersonInput;
  choices: Choices;
}) {
  const router = useRouter();
  const [p, setP] = useState(said);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const set = <K extends keyof PersonInput>(k: K, v: PersonInput[K]) => setP((now) => ({ ...now, [k]: v }));
  const changed = id === null || JSON.stringify(p) !== JSON.stringify(said);
  const send = () =>
    start(async () => {
      if (id === null) {
        const r = await proved(() => addPersonAction(p));
        if (!r.ok) return setWrong(r.sentence);
        say(`${p.name} is here now. Make a link for them to set a password.`);
        return router.push(`/office/people/${r.value.id}`);
      }
      const r = await proved(() => changePersonAction(id, p));
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      say(r.value.changed.length > 0 ? `Changed: ${r.value.changed.join(", ")}.` : "Nothing was changed.");
      router.refresh();
    });
  return (
    <form
      className="grid max-w-2xl gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <Line label="Name" value={p.name} set={(v) => set("name", v)} needed example="Una Quirke" />
      <Line
        label="E-mail"
        value={p.email}
        set={(v) => set("email", v)}
        needed
        example="una.quirke@quillhaven.example"
      />
      <Line label="Job" value={p.jobTitle} set={(v) => set("jobTitle", v)} />
      <Line
        label="Department"
        value={p.department}
        set={(v) => set("department", v)}
        offers={choices.departments}
      />
      <Line label="Site" value={p.site} set={(v) => set("site", v)} offers={choices.sites} />
      <div className="grid items-start gap-x-4 sm:grid-cols-[9rem_minmax(0,1fr)]">
        <label htmlFor="p-manager" className="text-soft sm:pt-1.5">
          Manager
        </label>
        <PersonPicker
          id="p-manager"
          label="Manager"
          people={choices.people}
          value={p.manager}
          placeholder="Nobody"
          onPick={(o) => set("manager", o?.id ?? null)}
        />
      </div>
      <div className="grid items-start gap-x-4 sm:grid-cols-[9rem_minmax(0,1fr)]">
        <label htmlFor="p-calendar" className="text-soft sm:pt-1.5">
          Working calendar
        </label>
        <Select
          id="p-calendar"
          value={p.calendar ?? ""}
          onPick={(value) => set("calendar", value || null)}
          empty="as each process has it"
          options={choices.calendars.map((c) => ({ value: c.key, label: c.name }))}
        />
      </div>
      <Line label="Time zone" value={p.zone} set={(v) => set("zone", v)} needed example="Europe/Dublin" />
      <div className="grid gap-x-4 sm:grid-cols-[9rem_minmax(0,1fr)]">
        <span />
        <span className="flex flex-wrap items-center gap-3">
          <Button look="main" type="submit" disabled={busy || !changed}>
            {id === null ? "Add this person" : "Keep these changes"}
          </Button>
          {!changed && <span className="text-sm text-soft">Nothing is changed yet.</span>}
        </span>
      </div>
    </form>
  );
}

function Line({
  label,
  value,
  set,
  needed = false,
  example,
  offers,
}: {
  label: string;
  value: string;
  set(v: string): void;
  needed?: boolean;
  example?: string;
  offers?: readonly string[];
}) {
  const id = useId();
  return (
    <div className="grid items-start gap-x-4 sm:grid-cols-[9rem_minmax(0,1fr)]">
      <label htmlFor={id} className="text-soft sm:pt-1.5">
        {label}
      </label>
      <div>
        <input
          id={id}
          className="input"
          required={needed}
          value={value}
          placeholder={example}
          list={offers ? `${id}-list` : undefined}
          onChange={(e) => set(e.target.value)}
        />
        {offers && (
          <datalist id={`${id}-list`}>
            {offers.map((o) => (
              <option key={o} value={o} />
            ))}
          </datalist>
        )}
      </div>
    </div>
  );
}

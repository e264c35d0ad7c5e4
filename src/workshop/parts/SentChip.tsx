"use client";
import { useMemo } from "react";
import { ANY, type Scope } from "@/core/expression";
import type { AfterSending } from "@/core/form";
import { RouteScopes } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { FormulaCell } from "./FormulaCell";
import { startRow } from "./RecordRows";
import { useNamesHere } from "./StepHere";
import { TemplateCell } from "./TemplateCell";
import { TextCell } from "./TextCell";

type Leads = NonNullable<AfterSending["leads"]>;

interface Props {
  sent: AfterSending;
  onChange(sent: AfterSending): void;
}

function sentText({ says, leads }: AfterSending, form: (key: string) => string): string {
  const read = says?.trim() ? "they read a text" : "";
  const go = leads
    ? `go on ${leads.to === "form" ? `with ${form(leads.process) || "a form"}` : "to a web address"}`
    : "";
  return [read, go].filter(Boolean).join(", and ") || "they see their request";
}

/** What comes once the form is sent: what is read then, and where whoever sent it may go on. */
export function SentChip({ sent, onChange }: Props) {
  const forms = useForms();
  const name = (key: string) => forms.find((o) => o.key === key)?.name ?? key;
  return (
    <Chip text={sentText(sent, name)} label="Once it is sent" width={620}>
      {() => <Sent sent={sent} onChange={onChange} />}
    </Chip>
  );
}

/** Whoever sits at a desk goes on with the same form again. */
function useForms(): readonly { key: string; name: string }[] {
  const others = useDraft((d) => d.office.others);
  const { key, name } = useDraft((d) => d.definition);
  return [{ key, name }, ...others];
}

const without = ({ leads: _, ...rest }: AfterSending): AfterSending => rest;

function Sent({ sent, onChange }: Props) {
  const definition = useDraft((d) => d.definition);
  const registers = useDraft((d) => d.office.registers);
  const scope = useMemo(
    () =>
      new RouteScopes(definition, { registers, kinds: KINDS }).of({ kind: "start", id: "" }, "form").scope,
    [definition, registers],
  );
  const lead = (to: string) => {
    if (to === "form") onChange({ ...sent, leads: { to, process: "", values: [] } });
    else if (to === "address") onChange({ ...sent, leads: { to, address: "" } });
    else onChange(without(sent));
  };
  return (
    <div className="grid gap-1.5 text-sm">
      <span className="text-soft" aria-hidden>
        They read
      </span>
      <TemplateCell
        label="What is read once it is sent"
        lines={4}
        value={sent.says ?? ""}
        scope={scope}
        onCommit={(t) => {
          const { says: _, ...rest } = sent;
          onChange(t.trim() ? { ...rest, says: t } : rest);
        }}
      />
      <label className={startRow}>
        <span className="text-soft">and may go on</span>
        <Select
          value={sent.leads?.to ?? "request"}
          onPick={lead}
          options={[
            { value: "request", label: "to their request" },
            { value: "form", label: "with another form" },
            { value: "address", label: "to a page on the web" },
          ]}
        />
      </label>
      {sent.leads && (
        <LeadsOn leads={sent.leads} scope={scope} onChange={(leads) => onChange({ ...sent, leads })} />
      )}
    </div>
  );
}

function LeadsOn({ leads, scope, onChange }: { leads: Leads; scope: Scope; onChange(l: Leads): void }) {
  const forms = useForms();
  if (leads.to === "address")
    return (
      <div className={startRow}>
        <span className="text-soft">at</span>
        <TemplateCell
          label="The address"
          value={leads.address}
          scope={scope}
          onCommit={(t) => onChange({ ...leads, address: t.trim() })}
        />
      </div>
    );
  const known = forms.some((o) => o.key === leads.process);
  return (
    <>
      <label className={startRow}>
        <span className="text-soft">the form of</span>
        <Select
          value={known ? leads.process : ""}
          empty={leads.process && !known ? "one that is not there any more" : "Choose…"}
          onPick={(process) => onChange({ ...leads, process, values: [] })}
          options={forms.map((o) => ({ value: o.key, label: o.name }))}
        />
      </label>
      {known && <Carried leads={leads} scope={scope} onChange={onChange} />}
    </>
  );
}

/** What is filled in of the next form: the name of a field there, and what it begins with. */
function Carried({
  leads,
  scope,
  onChange,
}: {
  leads: Extract<Leads, { to: "form" }>;
  scope: Scope;
  onChange(l: Leads): void;
}) {
  const names = useNamesHere();
  const put = (name: string, value: string) => {
    const others = leads.values.filter((v) => v.name !== name);
    const at = leads.values.findIndex((v) => v.name === name);
    const is = value.trim() ? [{ name, value }] : [];
    const before = at < 0 ? others : others.slice(0, at);
    onChange({ ...leads, values: [...before, ...is, ...(at < 0 ? [] : others.slice(at))] });
  };
  return (
    <>
      {leads.values.map((v) => (
        <div key={v.name} className={startRow}>
          <span className="truncate" title={v.name}>
            {v.name}
          </span>
          <FormulaCell
            label={`What ${v.name} of the next form begins with`}
            placeholder="emptied, it goes"
            value={v.value}
            scope={scope}
            wanted={ANY}
            names={names}
            onCommit={(t) => put(v.name, t)}
          />
        </div>
      ))}
      <div className={startRow}>
        <span className="text-soft">Carry over</span>
        <TextCell
          className="input"
          aria-label="A field of the next form to fill in"
          placeholder="the name of a field there, for example Store"
          value=""
          maxLength={60}
          onCommit={(t) => {
            const name = t.trim();
            if (name && !leads.values.some((v) => v.name === name))
              onChange({ ...leads, values: [...leads.values, { name, value: "" }] });
          }}
        />
      </div>
      <p className="text-soft">
        Only what whoever sent it may see is carried over, and only into fields that are open at the start
        there.
      </p>
    </>
  );
}

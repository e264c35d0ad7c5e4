"use client";
import { useMemo } from "react";
import {
  fieldType,
  findField,
  flatFields,
  isGroup,
  MAX_PROSE,
  mayOffer,
  pickedFrom,
  overRecordsScope,
  takesIn,
  type Field,
  type Hand,
} from "@/core/form";
import { YESNO, type Scope } from "@/core/expression";
import { isHandedTo } from "@/core/route";
import { KINDS } from "@/kinds";
import { Button, Select } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Detail, FormulaCell, TemplateCell, TextCell, useKindViews } from "../parts";
import { CheckRows } from "./CheckRows";
import { FieldUses } from "./FieldUses";
import type { FieldDeeds } from "./fieldDeeds";

const keeping = (f: Field): "live" | "copied" | "fixed" => {
  if (f.fixed) return "fixed";
  return f.copied ? "copied" : "live";
};

/** What does not fit in the columns: help, what its kind sets up, checks, and what to do with the row. */
export function FieldDetails({ field, scope, deeds }: { field: Field; scope: Scope; deeds: FieldDeeds }) {
  const d = useDraft();
  const set = (patch: Extract<Parameters<typeof d.edit>[0], { op: "field.set" }>["patch"]) =>
    d.edit({ op: "field.set", id: field.id, patch });
  const Editor = useKindViews().fields[field.kind];
  const { registers } = d.office;
  const { kind, register, among } = field;
  const { fields } = d.definition;
  const lines = findField(fields, field.id)?.parents.find((p) => p.kind === "lines");
  const ofPicked = useMemo((): Scope => {
    const around = { registers, kinds: KINDS };
    const picked = pickedFrom(
      { kind, ...(register ? { register } : {}), ...(among ? { among } : {}) },
      around,
    );
    return { ...scope, ...overRecordsScope(picked, fields, lines, around) };
  }, [scope, registers, kind, register, among, fields, lines]);
  const column = lines !== undefined;
  const begins =
    !isGroup(field) &&
    !column &&
    field.kind !== "lines" &&
    !field.worked &&
    (takesIn(field) || !d.definition.procedure);
  const handed =
    isHandedTo(d.definition, KINDS) &&
    !isGroup(field) &&
    flatFields(d.definition.fields).some((f) => f.id === field.id);
  return (
    <div className="grid max-w-3xl grid-cols-[8rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1.5 py-2">
      <Detail says="People read">
        <TextCell
          className="input"
          aria-label={`What people read in place of ${field.name}`}
          placeholder={`${field.name}; in any wording, e.g. Is catering needed?`}
          value={field.label ?? ""}
          maxLength={200}
          onCommit={(t) => void set({ label: t.trim() || null })}
        />
      </Detail>
      <Detail says="Help below it">
        <TextCell
          className="input"
          aria-label={`Help for ${field.name}`}
          value={field.help ?? ""}
          onCommit={(t) => void set({ help: t.trim() || null })}
        />
      </Detail>
      {isGroup(field) && (
        <Detail says={field.kind === "text block" ? "It says" : "Text below it"}>
          {/* One thing to the grid: what it reads like stands below it. */}
          <div className="min-w-0">
            <TemplateCell
              label={`What ${field.name} says`}
              value={field.text ?? ""}
              scope={scope}
              lines={5}
              onCommit={(t) => {
                // It stays as it was typed, to be made shorter.
                if (t.length > MAX_PROSE)
                  return d.tell(
                    `What ${field.name} says has ${t.length} characters; at most ${MAX_PROSE} are kept. Make it shorter, or part it in two.`,
                  );
                set({ text: t.trim() ? t : null });
              }}
            />
          </div>
        </Detail>
      )}
      {Editor && <Editor field={field} set={set} registers={d.office.registers} />}
      {mayOffer(field, KINDS.fields) && (
        <Detail says="Can be chosen">
          <FormulaCell
            label={`What can be chosen as ${field.name}`}
            placeholder={`everything${field.among ? " that stands there" : ""}; a condition, e.g. ${KINDS.fields[field.kind].idOf === "person" ? "Site = Requester.site" : 'Status = "In store"'}`}
            value={field.offered ?? ""}
            scope={ofPicked}
            wanted={YESNO}
            onCommit={(t) => set({ offered: t || null })}
          />
        </Detail>
      )}
      {column && (
        <Detail says="In its rows">
          <span className="flex flex-wrap gap-x-4">
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-4"
                checked={field.unique === true}
                onChange={(e) => void set({ unique: e.target.checked || null })}
              />
              no two rows have the same
            </label>
            {KINDS.fields[field.kind].has.range === "number" && (
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4"
                  checked={field.total === true}
                  onChange={(e) => void set({ total: e.target.checked || null })}
                />
                their sum stands below them
              </label>
            )}
          </span>
        </Detail>
      )}
      {field.worked && (
        <Detail says="Its value">
          <Select
            aria-label={`How long ${field.name} keeps its value`}
            value={keeping(field)}
            onPick={(how) => void set({ copied: how === "copied" || null, fixed: how === "fixed" || null })}
            options={[
              { value: "live", label: "is worked out anew whenever what it reads changes" },
              { value: "copied", label: "is a copy: stays as it was when what it reads was filled in" },
              { value: "fixed", label: "is fixed: stays as it was when the request was sent" },
            ]}
          />
        </Detail>
      )}
      {handed && (
        <Detail says="Handed over">
          <Select
            aria-label={`How ${field.name} is handed over`}
            value={field.hand ?? ""}
            onPick={(hand) => void set({ hand: (hand || null) as Hand | null })}
            empty={`not at all: the ${d.definition.procedure ? "procedure" : "process"} keeps it to itself`}
            options={[
              { value: "in", label: "in: whoever hands to it gives the value" },
              { value: "out", label: "back: it is read by whoever handed to it" },
              { value: "in and out", label: "in, and back as it is then" },
            ]}
          />
        </Detail>
      )}
      {begins && (
        <Detail says="Begins with">
          <FormulaCell
            label={`What ${field.name} begins with`}
            placeholder="nothing; e.g. 10, or Requester.department"
            value={field.starting ?? ""}
            scope={scope}
            wanted={fieldType(field, { registers: d.office.registers, kinds: KINDS })}
            names={d.turn?.names(null) ?? null}
            onCommit={(t) => set({ starting: t || null })}
          />
        </Detail>
      )}
      {!d.definition.procedure && (
        <Detail says="Personal">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="size-4"
              checked={field.personal === true}
              onChange={(e) => void set({ personal: e.target.checked || null })}
            />
            says something of a person: blanked some time after the request has ended
          </label>
        </Detail>
      )}
      {field.kind !== "text block" && (
        <Detail says="Checked by">
          <CheckRows field={field} scope={scope} onSet={(checks) => void set({ checks })} />
        </Detail>
      )}
      {!isGroup(field) && (
        <Detail says="Where used">
          <FieldUses field={field} />
        </Detail>
      )}
      <Detail says="This row">
        <span className="flex flex-wrap gap-1.5">
          <Button small onClick={() => deeds.up(field.id)}>
            Up
          </Button>
          <Button small onClick={() => deeds.down(field.id)}>
            Down
          </Button>
          <Button small onClick={() => deeds.nest(field.id)}>
            Into the group above
          </Button>
          <Button small onClick={() => deeds.unnest(field.id)}>
            Out of its group
          </Button>
          <Button small look="brick" onClick={() => deeds.remove(field.id)}>
            Remove
          </Button>
        </span>
      </Detail>
    </div>
  );
}

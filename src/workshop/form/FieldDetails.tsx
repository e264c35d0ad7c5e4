"use client";
import { MAX_FILE_MB, type Field } from "@/core/form";
import { YESNO, type Scope } from "@/core/expression";
import { Button } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { FormulaCell } from "../parts";
import { TextCell } from "../parts";
import type { FieldDeeds } from "./fieldDeeds";

/** What does not fit in the columns: help, choices, register, range, checks, and what to do with the row. */
export function FieldDetails({ field, scope, deeds }: { field: Field; scope: Scope; deeds: FieldDeeds }) {
  const d = useDraft();
  const set = (patch: Extract<Parameters<typeof d.edit>[0], { op: "field.set" }>["patch"]) =>
    d.edit({ op: "field.set", id: field.id, patch });
  const numeric = field.kind === "number" || field.kind === "money";
  const checks = field.checks ?? [];
  const label = "text-sm text-soft";
  return (
    <div className="grid max-w-3xl grid-cols-[8rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1.5 py-2">
      <span className={label}>Help below it</span>
      <TextCell
        className="input"
        aria-label={`Help for ${field.name}`}
        value={field.help ?? ""}
        onCommit={(t) => void set({ help: t.trim() || null })}
      />
      {field.kind === "choice" && (
        <>
          <span className={`${label} self-start pt-1`}>Choices, one a line</span>
          <textarea
            className="input"
            rows={Math.min(8, (field.options?.length ?? 0) + 1)}
            aria-label={`Choices of ${field.name}`}
            defaultValue={(field.options ?? []).join("\n")}
            key={(field.options ?? []).join("\n")}
            onBlur={(e) => {
              const options = [
                ...new Set(
                  e.target.value
                    .split("\n")
                    .map((o) => o.trim())
                    .filter(Boolean),
                ),
              ];
              if (options.join("\n") !== (field.options ?? []).join("\n")) set({ options });
            }}
          />
        </>
      )}
      {field.kind === "look-up" && (
        <>
          <label className={label} htmlFor={`register-${field.id}`}>
            Looks in
          </label>
          <select
            id={`register-${field.id}`}
            className="input max-w-60"
            value={field.register ?? ""}
            onChange={(e) => set({ register: e.target.value || null })}
          >
            <option value="">Choose a register…</option>
            {Object.values(d.office.registers).map((r) => (
              <option key={r.key} value={r.key}>
                {r.name}
              </option>
            ))}
          </select>
        </>
      )}
      {field.kind === "file" && (
        <>
          <span className={label}>Kinds of files</span>
          <TextCell
            className="input max-w-80"
            aria-label={`Kinds of files of ${field.name}`}
            placeholder="any; or endings, for example pdf, jpg"
            value={(field.options ?? []).join(", ")}
            onCommit={(t) => {
              const options = [
                ...new Set(
                  t
                    .toLowerCase()
                    .split(/[\s,;]+/)
                    .map((o) => o.replace(/^\./, ""))
                    .filter(Boolean),
                ),
              ];
              set({ options: options.length > 0 ? options : null });
            }}
          />
          <span className={label}>Up to, in MB</span>
          <TextCell
            className="input max-w-40"
            inputMode="decimal"
            aria-label={`Largest file of ${field.name}, in MB`}
            placeholder={String(MAX_FILE_MB)}
            value={field.max ?? ""}
            onCommit={(t) => void set({ max: t.trim() || null })}
          />
        </>
      )}
      {(numeric || field.kind === "date") && (
        <>
          <span className={label}>From … to</span>
          <span className="flex gap-2">
            <TextCell
              className="input max-w-40"
              aria-label={`Least of ${field.name}`}
              placeholder={numeric ? "1" : "2026-01-01"}
              value={field.min ?? ""}
              onCommit={(t) => void set({ min: t.trim() || null })}
            />
            <TextCell
              className="input max-w-40"
              aria-label={`Most of ${field.name}`}
              placeholder={numeric ? "500" : "2026-12-31"}
              value={field.max ?? ""}
              onCommit={(t) => void set({ max: t.trim() || null })}
            />
          </span>
        </>
      )}
      {field.kind !== "page" && field.kind !== "section" && (
        <>
          <span className={`${label} self-start pt-1.5`}>Checked by</span>
          <div>
            {checks.map((c, i) => (
              <div
                key={i}
                className="mb-1 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-2"
              >
                <FormulaCell
                  label={`Check ${i + 1} of ${field.name}: must hold`}
                  value={c.must}
                  scope={scope}
                  wanted={YESNO}
                  names={d.turn?.names() ?? null}
                  onCommit={(t) => set({ checks: checks.map((x, k) => (k === i ? { ...x, must: t } : x)) })}
                />
                <TextCell
                  className="input"
                  aria-label={`Check ${i + 1} of ${field.name}: otherwise say`}
                  value={c.say}
                  onCommit={(t) =>
                    void set({ checks: checks.map((x, k) => (k === i ? { ...x, say: t } : x)) })
                  }
                />
                <Button
                  small
                  look="quiet"
                  onClick={() => set({ checks: checks.length > 1 ? checks.filter((_, k) => k !== i) : null })}
                >
                  Remove
                </Button>
              </div>
            ))}
            <Button
              small
              onClick={() =>
                set({ checks: [...checks, { must: "true", say: `${field.name} is not right.` }] })
              }
            >
              Add a check
            </Button>
          </div>
        </>
      )}
      <span className={label}>This row</span>
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
    </div>
  );
}

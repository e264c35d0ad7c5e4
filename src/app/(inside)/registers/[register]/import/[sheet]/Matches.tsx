"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { SheetPlan } from "@/core/sheets";
import type { SheetPage } from "@/services";
import { Banner, Field, RadioGroup, Select } from "@/ui";
import { planSheetAction } from "../../../../../actions/sheets";

/** A worn path from a column of the sheet to one of the register, dotted where it leads nowhere. */
const Path = ({ to }: { to: boolean }) => (
  <svg viewBox="0 0 48 10" className="h-2.5 w-12 text-line-strong" aria-hidden>
    <path
      d="M1 5 C 12 1.5, 22 8.5, 34 5 S 44 4, 47 5"
      fill="none"
      stroke="currentColor"
      strokeWidth={to ? 2.5 : 1.5}
      strokeLinecap="round"
      strokeDasharray={to ? undefined : "0.5 5"}
    />
  </svg>
);

/** One of two, beside each other. */
function Either<T extends string>(p: {
  label: string;
  value: T;
  of: readonly (readonly [T, string])[];
  onPick(value: T): void;
}) {
  const options = p.of.map(([id, label]) => ({ id, label }));
  return (
    <RadioGroup
      label={p.label}
      value={p.value}
      options={options}
      onPick={(id) => p.onPick(p.of.find(([x]) => x === id)![0])}
      across
    />
  );
}

/** How a sheet is matched to its register; each change has it tried anew, and what comes of it stands beside it. */
export function Matches({ page }: { page: SheetPage }) {
  const { sheet, columns, examples, may, register } = page;
  const router = useRouter();
  const [plan, setPlan] = useState<SheetPlan>(sheet.plan!);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const set = (change: Partial<SheetPlan>) => {
    const next = { ...plan, ...change };
    setPlan(next);
    start(async () => {
      const r = await planSheetAction(sheet.id, next).catch(() => null);
      setWrong(r?.ok ? "" : (r?.sentence ?? "The server could not be reached. Try again."));
      if (r?.ok) router.refresh();
    });
  };
  const match = (i: number, to: string | null) => {
    // A column is filled by one: where another had it, that is left aside now.
    const matches = plan.matches.map((m, n) => {
      if (n === i) return to;
      return m === to && to !== null ? null : m;
    });
    set({ matches, key: plan.key !== null && matches.includes(plan.key) ? plan.key : null });
  };
  const given = new Set(plan.matches);
  const missing = columns.filter((c) => c.needed && !given.has(c.id));
  const kinds = new Set(columns.filter((c) => given.has(c.id)).map((c) => c.kind));
  const starts = Object.values(sheet.starts).some((n) => n > 0);
  return (
    <section aria-labelledby="matches" className="min-w-0" aria-busy={busy}>
      <h2 id="matches" className="mb-2">
        What goes where
      </h2>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <ul className="mb-5 border-t border-line">
        {sheet.headings.map((h, i) => (
          <li
            key={i}
            className="grid grid-cols-[minmax(0,1fr)_3rem_minmax(0,1fr)] items-center gap-x-2 border-b border-line py-1.5"
          >
            <span className="min-w-0">
              <span className="block truncate font-medium" title={h}>
                {h || `Column ${i + 1}`}
              </span>
              <span className="block truncate text-sm text-soft" title={examples[i]!.join(" · ")}>
                {examples[i]!.join(" · ") || "empty"}
              </span>
            </span>
            <Path to={plan.matches[i] !== null} />
            <Select
              aria-label={`${h || `Column ${i + 1}`} goes to`}
              value={plan.matches[i] ?? ""}
              empty="left aside"
              options={columns.map((c) => ({ value: c.id, label: c.name }))}
              onPick={(v) => match(i, v || null)}
            />
          </li>
        ))}
      </ul>
      {plan.absent === "add" && missing.length > 0 && (
        <Banner tone="soon">
          {missing.map((c) => c.name).join(", ")} {missing.length === 1 ? "is" : "are"} needed of a new{" "}
          {register.one}, and nothing goes there.
        </Banner>
      )}
      <div className="grid gap-4">
        <Field
          label="Records are found again by"
          help={
            plan.key === null
              ? `Every row is a new ${register.one}.`
              : "A row with the same there is about that record."
          }
        >
          {(f) => (
            <Select
              {...f}
              value={plan.key ?? ""}
              empty="nothing"
              options={columns
                .filter((c) => given.has(c.id) && page.keys.includes(c.id))
                .map((c) => ({ value: c.id, label: c.name }))}
              onPick={(v) => set({ key: v || null, ...(v === "" && may.add ? { absent: "add" } : {}) })}
            />
          )}
        </Field>
        {plan.key !== null && (
          <>
            <Either
              label="Those that are there"
              value={plan.there}
              of={[...(may.change ? [["change", "are changed"] as const] : []), ["leave", "are left"]]}
              onPick={(there) => set({ there })}
            />
            <Either
              label="An empty cell"
              value={plan.empty}
              of={[
                ["leave", "leaves what is there"],
                ["empty", "empties it"],
              ]}
              onPick={(empty) => set({ empty })}
            />
            <Either
              label="Those that are not"
              value={plan.absent}
              of={[...(may.add ? [["add", "are added"] as const] : []), ["leave", "are left out"]]}
              onPick={(absent) => set({ absent })}
            />
          </>
        )}
        {kinds.has("date") && (
          <Either
            label="A date like 03/04/2026 is"
            value={plan.reading.dates}
            of={[
              ["day", "3 April"],
              ["month", "4 March"],
            ]}
            onPick={(dates) => set({ reading: { ...plan.reading, dates } })}
          />
        )}
        {(kinds.has("number") || kinds.has("money")) && (
          <Either
            label="A number like 1.250 is"
            value={plan.reading.decimal}
            of={[
              [".", "one and a quarter"],
              [",", "a thousand and some"],
            ]}
            onPick={(decimal) => set({ reading: { ...plan.reading, decimal } })}
          />
        )}
        {(starts || plan.quietly) && (
          <Field label="Requests that it starts">
            {(f) => (
              <Select
                {...f}
                value={plan.quietly ? "none" : String(plan.aMinute ?? "all")}
                options={[
                  { value: "20", label: "begin 20 a minute" },
                  { value: "200", label: "begin 200 a minute" },
                  { value: "all", label: "begin all at once" },
                  { value: "none", label: "do not begin" },
                ]}
                onPick={(v) =>
                  set({ quietly: v === "none", aMinute: v === "all" || v === "none" ? null : Number(v) })
                }
              />
            )}
          </Field>
        )}
      </div>
    </section>
  );
}

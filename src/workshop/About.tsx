"use client";
import { useMemo, type ReactNode } from "react";
import { RouteScopes, type Limit, type ProcessDefinition } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { SpanLimit, TemplateCell, TextCell, useDraft } from "./parts";

const row = "grid grid-cols-[minmax(8rem,12rem)_minmax(0,1fr)] items-start gap-x-4";
const label = "pt-1.5 text-soft";
/** Longer than anybody keeps anything: a hundred years. */
const MOST_DAYS = 36_500;

/** How long something is kept once a request has ended. */
function DaysKept({
  id,
  label: of,
  goes,
  days,
  onDays,
  children,
}: {
  id: string;
  label: string;
  /** What becomes of it then. */
  goes: string;
  days: number | undefined;
  onDays(days: number | null): void;
  children: ReactNode;
}) {
  return (
    <div className={row}>
      <label htmlFor={id} className={label}>
        {of}
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <span>{goes}</span>
        <input
          id={id}
          type="number"
          min={0}
          max={MOST_DAYS}
          className="input !w-24"
          placeholder="never"
          defaultValue={days ?? ""}
          key={days ?? ""}
          onBlur={(e) => {
            const next = e.target.value === "" ? null : Math.trunc(Number(e.target.value));
            if (next !== null && (next < 0 || next > MOST_DAYS)) e.target.value = String(days ?? "");
            else if (next !== (days ?? null)) onDays(next);
          }}
        />
        <span>days after a request has ended</span>
        <p className="w-full text-sm text-soft">{children}</p>
      </div>
    </div>
  );
}

/** What a process is called, who owns it, and how its requests are named. */
export function About({ owners, children }: { owners: ReactNode; children: ReactNode }) {
  const d = useDraft();
  const p = d.definition;
  const set = (
    patch: Partial<
      Pick<ProcessDefinition, "name" | "purpose" | "title" | "numbering" | "calendar"> & {
        keepPersonalDays: number | null;
        keepFilesDays: number | null;
        mentions: true | null;
        limit: Limit | null;
        mailbox: string | null;
        listed: ProcessDefinition["listed"] | null;
      }
    >,
  ) => d.edit({ op: "process.set", patch });
  // Mistakes in the title stand under it already.
  const problems = d.problems.filter((x) => x.where.kind === "process" && x.where.place !== "title");
  const scope = useMemo(
    () => new RouteScopes(p, { registers: d.office.registers, kinds: KINDS }).at(null),
    [p, d.office.registers],
  );
  return (
    <div className="grid max-w-3xl gap-3">
      {problems.map((x, i) => (
        <p key={i} className={x.severity === "error" ? "text-brick" : "text-lichen"}>
          {x.message}
        </p>
      ))}
      <div className={row}>
        <label htmlFor="p-name" className={label}>
          Name
        </label>
        <TextCell
          id="p-name"
          className="input"
          value={p.name}
          onCommit={(t) => (t.trim() ? void set({ name: t.trim() }) : false)}
        />
      </div>
      <div className={row}>
        <label htmlFor="p-purpose" className={label}>
          Purpose
        </label>
        <textarea
          id="p-purpose"
          className="input"
          rows={3}
          defaultValue={p.purpose}
          key={p.purpose}
          onBlur={(e) => e.target.value !== p.purpose && set({ purpose: e.target.value })}
        />
      </div>
      {!p.procedure && (
        <>
          <div className={row}>
            <span className={label}>Title of a request</span>
            <div>
              <TemplateCell
                label="Title of a request"
                value={p.title}
                scope={scope}
                onCommit={(t) => void set({ title: t })}
              />
            </div>
          </div>
          <div className={row}>
            <span className={label}>Numbers</span>
            <span className="flex items-center gap-2">
              <TextCell
                className="input !w-28"
                aria-label="Prefix of numbers"
                value={p.numbering.prefix}
                onCommit={(t) =>
                  void set({ numbering: { ...p.numbering, prefix: t.trim().toUpperCase().slice(0, 8) } })
                }
              />
              <Select
                className="!w-28"
                aria-label="Digits"
                value={p.numbering.digits}
                onPick={(value) => set({ numbering: { ...p.numbering, digits: Number(value) } })}
                options={[3, 4, 5, 6].map((n) => ({ value: String(n), label: `${n} digits` }))}
              />
              <span className="text-sm text-soft">
                {p.numbering.prefix}-{"42".padStart(p.numbering.digits, "0")}
              </span>
            </span>
          </div>
        </>
      )}
      <div className={row}>
        <label htmlFor="p-calendar" className={label}>
          Working calendar
        </label>
        <Select
          id="p-calendar"
          className="max-w-80"
          value={p.calendar ?? "office"}
          onPick={(value) => set({ calendar: value })}
          options={d.office.data.calendars.map((c) => ({ value: c.key, label: c.name }))}
        />
      </div>
      {!p.procedure && (
        <div className={row}>
          <label htmlFor="p-listed" className={label}>
            Listed under
          </label>
          <div>
            <span className="flex flex-wrap items-center gap-2">
              <TextCell
                id="p-listed"
                className="input !w-64"
                placeholder="no heading"
                maxLength={60}
                value={p.listed?.under ?? ""}
                onCommit={(t) => void set({ listed: t.trim() ? { ...p.listed, under: t.trim() } : null })}
              />
              <TextCell
                className="input !w-24"
                aria-label="Its place under that heading"
                placeholder="place"
                inputMode="numeric"
                maxLength={3}
                value={p.listed?.place?.toString() ?? ""}
                onCommit={(t) => {
                  if (!p.listed || !/^\d{0,3}$/.test(t.trim())) return false;
                  const { under } = p.listed;
                  return void set({ listed: t.trim() ? { under, place: Number(t) } : { under } });
                }}
              />
            </span>
            <p className="text-sm text-soft">
              The heading among the forms that can be asked for, here and outside; the smallest place stands
              first.
            </p>
          </div>
        </div>
      )}
      {!p.procedure && (
        <div className={row}>
          <label htmlFor="p-mailbox" className={label}>
            Mailbox
          </label>
          <div>
            <Select
              id="p-mailbox"
              className="max-w-96"
              value={p.mailbox ?? ""}
              onPick={(value) => set({ mailbox: value || null })}
              options={[
                { value: "", label: "none: it sends no mail" },
                ...d.office.data.mailboxes.map((m) => ({
                  value: m.address,
                  label: `${m.name}, ${m.address}`,
                })),
                ...(p.mailbox && !d.office.data.mailboxes.some((m) => m.address === p.mailbox)
                  ? [{ value: p.mailbox, label: `${p.mailbox} (not in Office)` }]
                  : []),
              ]}
            />
            <p className="text-sm text-soft">
              Its mail goes out from here, and replies come back here. Mailboxes are kept in Office.
            </p>
          </div>
        </div>
      )}
      {!p.procedure && (
        <>
          <DaysKept
            id="p-keep"
            label="Personal values"
            goes="are blanked"
            days={p.keepPersonalDays}
            onDays={(days) => set({ keepPersonalDays: days })}
          >
            Which fields are personal is said on the form sheet, in a field&apos;s details. Empty: they are
            kept for good.
          </DaysKept>
          <DaysKept
            id="p-keep-files"
            label="Files"
            goes="are removed"
            days={p.keepFilesDays}
            onDays={(days) => set({ keepFilesDays: days })}
          >
            Also what came with mails and what was drawn up; the trail says so. Records keep theirs, and
            signatures stay. Empty: they are kept for good.
          </DaysKept>
        </>
      )}
      <div className={row}>
        <span className={label}>Limit</span>
        <div>
          <SpanLimit
            id=""
            limit={p.limit}
            scope={scope}
            of={p.procedure ? "the whole procedure" : "the whole request"}
            onPut={(limit) => set({ limit })}
          />
          <p className="text-sm text-soft">
            By when all of it is to be done, from when it {p.procedure ? "is come to" : "was made"}; steps and
            parts of the route have limits of their own.
          </p>
        </div>
      </div>
      {!p.procedure && (
        <div className={row}>
          <span className={label}>Mentions</span>
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-1"
              checked={p.mentions === true}
              onChange={(e) => set({ mentions: e.target.checked ? true : null })}
            />
            <span>
              Whoever is mentioned in a note is told, and may look
              <span className="block text-sm text-soft">
                By @ and their name, as in “@Ada Byrne, does this fit?”. They see the request as whoever asked
                for it does, what is written beside it, and nothing that is hidden there.
              </span>
            </span>
          </label>
        </div>
      )}
      <div className={row}>
        <span className={label}>Owners</span>
        <div>{owners}</div>
      </div>
      <div className={row}>
        <span className={label}>Samples</span>
        <ul>
          {p.samples.map((s) => (
            <li key={s.id} className="flex items-center gap-2 py-0.5">
              <TextCell
                className="input max-w-72"
                aria-label={`Name of sample ${s.name}`}
                value={s.name}
                onCommit={(t) =>
                  t.trim()
                    ? d.edit({ op: "sample.put", after: null, sample: { ...s, name: t.trim() } })
                    : false
                }
              />
              <button
                type="button"
                className="text-sm underline"
                onClick={() => d.edit({ op: "sample.remove", id: s.id })}
              >
                remove
              </button>
            </li>
          ))}
          {p.samples.length === 0 && (
            <li className="pt-1.5 text-soft">
              None yet. On the form sheet, fill in the live form and keep it.
            </li>
          )}
        </ul>
      </div>
      {children}
    </div>
  );
}

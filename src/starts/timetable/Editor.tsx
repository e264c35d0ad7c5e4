"use client";
import { Temporal } from "temporal-polyfill";
import { useMemo } from "react";
import { recordScope } from "@/core/form";
import { timetableDays, type OnClosed, type Timetable } from "@/core/calendar";
import { DEFAULT_CALENDAR } from "@/core/engine";
import { KINDS } from "@/kinds";
import { dateText, Select } from "@/ui";
import { Chip, FillsChip, HoldsRow, RegisterRow, startRow, useDraft, without } from "@/workshop/parts";
import type { StartEditorProps } from "../editor";
import type { TimetableStart } from "./shape";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const NTHS = [
  { value: "1", label: "first" },
  { value: "2", label: "second" },
  { value: "3", label: "third" },
  { value: "4", label: "fourth" },
  { value: "5", label: "fifth" },
  { value: "-1", label: "last" },
];
const CLOSED: { value: OnClosed; label: string }[] = [
  { value: "skip", label: "it is left out" },
  { value: "before", label: "the working day before" },
  { value: "after", label: "the working day after" },
  { value: "as it is", label: "all the same" },
];
/** Days shown ahead, and how far is looked for them. */
const SHOWN = 5;
const AHEAD = 400;

const blank = (every: string): Timetable => {
  if (every === "week") return { every, days: [1] };
  return every === "month" ? { every, nth: 1, of: 1 } : { every: "working day" };
};

/** The start as it reads at rest, its register by name. */
const startText = (s: TimetableStart, register: string | undefined): string =>
  KINDS.starts.timetable.words(
    s.each && register !== undefined ? { ...s, each: { ...s.each, register } } : s,
  );

/** On which days it starts, and the next five of them. */
export function Editor({ start, onChange }: StartEditorProps<"timetable">) {
  const calendars = useDraft((d) => d.office.data.calendars);
  const key = useDraft((d) => d.definition.calendar);
  const now = useDraft((d) => d.facts.now);
  const calendar = calendars.find((c) => c.key === (key ?? DEFAULT_CALENDAR)) ?? calendars[0];
  const { days: t, each } = start;
  const registers = useDraft((d) => d.office.registers);
  const shape = each && registers[each.register];
  const scope = useMemo(
    () => (shape ? recordScope(shape, { registers, kinds: KINDS }) : {}),
    [shape, registers],
  );
  const put = (days: Timetable) => onChange({ ...start, days });
  const here = calendar && now.withTimeZone(calendar.zone);
  const passed =
    here && Temporal.PlainTime.compare(here.toPlainTime(), Temporal.PlainTime.from(start.at)) >= 0;
  const today = here?.toPlainDate();
  const next =
    calendar && today
      ? timetableDays(
          t,
          start.closed,
          passed ? today : today.subtract({ days: 1 }),
          today.add({ days: AHEAD }),
          calendar,
        ).slice(0, SHOWN)
      : [];
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5 gap-y-0.5">
      By itself
      <Chip text={startText(start, shape?.name)} label="On which days it starts" empty={false} width={520}>
        {() => (
          <div className="grid gap-1.5 text-sm">
            <label className={startRow}>
              <span className="text-soft">Every</span>
              <Select
                value={t.every}
                onPick={(every) => put(blank(every))}
                options={[
                  { value: "working day", label: "working day" },
                  { value: "week", label: "week, on certain days" },
                  { value: "month", label: "month, on one day" },
                ]}
              />
            </label>
            {t.every === "week" && (
              <fieldset className={startRow}>
                <legend className="contents">
                  <span className="text-soft">On</span>
                </legend>
                <span className="flex flex-wrap gap-x-3">
                  {WEEKDAYS.map((name, i) => (
                    <label key={name} className="flex items-center gap-1.5">
                      <input
                        type="checkbox"
                        checked={t.days.includes(i + 1)}
                        onChange={() =>
                          put({
                            ...t,
                            days: t.days.includes(i + 1)
                              ? t.days.filter((d) => d !== i + 1)
                              : [...t.days, i + 1].sort((a, b) => a - b),
                          })
                        }
                      />
                      {name}
                    </label>
                  ))}
                </span>
              </fieldset>
            )}
            {t.every === "month" && (
              <div className={startRow}>
                <span className="text-soft">On the</span>
                <span className="flex gap-2">
                  <Select
                    className="!w-32"
                    aria-label="Which of the month"
                    value={String(t.nth)}
                    onPick={(nth) => put({ ...t, nth: Number(nth) })}
                    options={NTHS}
                  />
                  <Select
                    className="!w-44"
                    aria-label="What is counted in the month"
                    value={String(t.of)}
                    onPick={(of) =>
                      put({ ...t, of: /^\d$/.test(of) ? Number(of) : (of as "day" | "working day") })
                    }
                    options={[
                      { value: "working day", label: "working day" },
                      { value: "day", label: "day" },
                      ...WEEKDAYS.map((name, i) => ({ value: String(i + 1), label: name })),
                    ]}
                  />
                </span>
              </div>
            )}
            <label className={startRow}>
              <span className="text-soft">At</span>
              <input
                type="time"
                className="input !w-32"
                value={start.at}
                onChange={(e) => e.target.value && onChange({ ...start, at: e.target.value.slice(0, 5) })}
              />
            </label>
            {t.every !== "working day" && (
              <label className={startRow}>
                <span className="text-soft">On a closed day</span>
                <Select
                  value={start.closed}
                  onPick={(closed) => onChange({ ...start, closed: closed as OnClosed })}
                  options={CLOSED}
                />
              </label>
            )}
            <label className={startRow}>
              <span className="text-soft">It makes</span>
              <Select
                value={start.each ? "each" : ""}
                onPick={(v) =>
                  onChange(v ? { ...start, each: { register: "", values: [] } } : without(start, "each"))
                }
                options={[
                  { value: "", label: "one request" },
                  { value: "each", label: "one for each record that is found then" },
                ]}
              />
            </label>
            {each && (
              <>
                <RegisterRow
                  says="Records of"
                  register={each.register}
                  onPick={(register) =>
                    onChange({ ...start, each: { ...without(each, "into"), register, values: [] } })
                  }
                />
                <HoldsRow
                  says="where"
                  placeholder="always; or over their columns"
                  when={each.when}
                  scope={scope}
                  onCommit={(t) =>
                    onChange({ ...start, each: { ...without(each, "when"), ...(t ? { when: t } : {}) } })
                  }
                />
              </>
            )}
          </div>
        )}
      </Chip>
      {each && shape && (
        <FillsChip
          shape={shape}
          scope={scope}
          keeps
          into={each.into}
          values={each.values}
          onInto={(into) =>
            onChange({ ...start, each: { ...without(each, "into"), ...(into ? { into } : {}) } })
          }
          onValues={(values) => onChange({ ...start, each: { ...each, values } })}
        />
      )}
      <span className="basis-full text-sm text-soft">
        {next.length > 0
          ? `Next: ${next.map((d) => dateText(d.toString())).join(" · ")}`
          : "On no day of the coming year."}
      </span>
    </span>
  );
}

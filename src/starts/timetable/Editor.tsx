"use client";
import { Temporal } from "temporal-polyfill";
import { useEffect, useMemo, useState } from "react";
import { recordScope } from "@/core/form";
import {
  MOST_RULE,
  ruleMistake,
  tidyRule,
  timetableDays,
  type DaysOfRule,
  type OnClosed,
  type Timetable,
} from "@/core/calendar";
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

/** Rules to begin from: what office people ask for that the other ways do not say. */
const RULES = [
  { value: "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU", label: "every second week, on Tuesday" },
  { value: "FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO", label: "every third month, on its first Monday" },
  { value: "FREQ=MONTHLY;BYMONTHDAY=1,15", label: "on the 1st and the 15th of each month" },
  { value: "FREQ=YEARLY;BYMONTH=3,6,9,12;BYMONTHDAY=-1", label: "on the last day of each quarter" },
  {
    value: "FREQ=YEARLY;BYMONTH=9;BYDAY=MO;BYSETPOS=1",
    label: "once a year, on the first Monday of September",
  },
];

/** What reads rules, loaded where one is looked at; nothing else on the sheet needs it. */
function useDaysOfRule(wanted: boolean): DaysOfRule | null {
  const [read, setRead] = useState<{ days: DaysOfRule } | null>(null);
  useEffect(() => {
    if (wanted && !read) void import("./daysOfRule").then((m) => setRead({ days: m.daysOfRule }));
  }, [wanted, read]);
  return read?.days ?? null;
}

const NO_DAYS: DaysOfRule = () => [];

const blank = (every: string, today: string): Timetable => {
  if (every === "rule") return { every, rule: RULES[0]!.value, from: today };
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
  const ofRule = useDaysOfRule(t.every === "rule");
  const loading = t.every === "rule" && ofRule === null;
  const behind = today && (passed ? today : today.subtract({ days: 1 })).toString();
  const next = useMemo(() => {
    if (!calendar || behind === undefined || loading) return [];
    const after = Temporal.PlainDate.from(behind);
    const to = after.add({ days: AHEAD });
    return timetableDays(t, start.closed, after, to, calendar, ofRule ?? NO_DAYS).slice(0, SHOWN);
  }, [t, start.closed, behind, calendar, loading, ofRule]);
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
                onPick={(every) => put(blank(every, today?.toString() ?? "2026-01-01"))}
                options={[
                  { value: "working day", label: "working day" },
                  { value: "week", label: "week, on certain days" },
                  { value: "month", label: "month, on one day" },
                  { value: "rule", label: "otherwise, by a rule" },
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
            {t.every === "rule" && <RuleRows rule={t} onChange={put} />}
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
      <span className="basis-full text-sm text-soft">{nextText(next, loading)}</span>
    </span>
  );
}

function nextText(next: readonly Temporal.PlainDate[], loading: boolean): string {
  if (loading) return "Looking for its days…";
  return next.length > 0
    ? `Next: ${next.map((d) => dateText(d.toString())).join(" · ")}`
    : "On no day of the coming year.";
}

/** A rule as calendars write it, and from which day it is counted; what is wrong with it stands below. */
function RuleRows(p: { rule: Extract<Timetable, { every: "rule" }>; onChange(t: Timetable): void }) {
  const { rule } = p;
  const [text, setText] = useState(rule.rule);
  useEffect(() => setText(rule.rule), [rule.rule]);
  const mistake = ruleMistake({ ...rule, rule: tidyRule(text) });
  return (
    <>
      <label className={startRow}>
        <span className="text-soft">Such as</span>
        <Select
          value=""
          empty="begin from an example…"
          onPick={(v) => v && p.onChange({ ...rule, rule: v })}
          options={RULES}
        />
      </label>
      <label className={startRow}>
        <span className="text-soft">Rule</span>
        <input
          className="input font-mono"
          spellCheck={false}
          maxLength={MOST_RULE}
          aria-invalid={mistake !== null}
          aria-describedby="rule-said"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={() => p.onChange({ ...rule, rule: tidyRule(text) })}
          onKeyDown={(e) => {
            if (e.key === "Enter") p.onChange({ ...rule, rule: tidyRule(text) });
          }}
        />
      </label>
      <p id="rule-said" className={mistake === null ? "text-soft" : "text-brick"}>
        {mistake ?? "Written as calendars do (RFC 5545): FREQ, INTERVAL, BYDAY, BYMONTHDAY, BYMONTH …"}
      </p>
      <label className={startRow}>
        <span className="text-soft">Counted from</span>
        <input
          type="date"
          className="input !w-44"
          value={rule.from}
          onChange={(e) => e.target.value && p.onChange({ ...rule, from: e.target.value })}
        />
      </label>
    </>
  );
}

"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { WorkingCalendar } from "@/core/calendar";
import { Banner, Button, dateText, Empty } from "@/ui";
import { putCalendarAction, removeCalendarAction } from "../../../actions/people";
import { say } from "../../../shell/say";
import { WhereUsed } from "../../../shell/WhereUsed";
import { useProof } from "../../../shell/useProof";
import { DAYS, hoursText, placeName, readHolidays, readHours } from "./calendarText";
import { HolidaysOf } from "./HolidaysOf";

/** Working calendars and their hours and holidays; each is changed in its own place. */
export function Calendars({
  calendars,
  keeps,
  zone,
}: {
  calendars: WorkingCalendar[];
  keeps: boolean;
  zone: string;
}) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <div className="max-w-3xl">
      {keeps && open !== "" && (
        <p className="mb-4">
          <Button look="main" onClick={() => setOpen("")}>
            Add a working calendar
          </Button>
        </p>
      )}
      {open === "" && <Editing calendar={null} zone={zone} done={() => setOpen(null)} />}
      {calendars.length === 0 && open !== "" && <Empty title="No working calendars yet" />}
      {calendars.map((c) =>
        open === c.key ? (
          <Editing key={c.key} calendar={c} zone={zone} done={() => setOpen(null)} />
        ) : (
          <section
            key={c.key}
            aria-label={c.name}
            className="flex items-start gap-4 border-t border-line py-2"
          >
            <div className="min-w-0 flex-1">
              <h2 className="!text-base">
                {c.name} <span className="font-sans text-sm font-normal text-soft">{c.zone}</span>
              </h2>
              <dl className="mt-1 grid max-w-xl grid-cols-[7rem_1fr] text-sm">
                {DAYS.map((d, i) => (
                  <div key={d} className="contents">
                    <dt className="text-soft">{d}</dt>
                    <dd>{hoursText(c.week[String(i + 1)]) || <span className="text-faint">closed</span>}</dd>
                  </div>
                ))}
              </dl>
              <details className="mt-1 text-sm">
                <summary className="text-soft">
                  {c.holidays.length === 1 ? "One holiday" : `${c.holidays.length} holidays`} entered
                </summary>
                <p className="mt-1">{c.holidays.map((h) => dateText(h)).join(" · ")}</p>
              </details>
              {c.publicHolidays && (
                <p className="mt-1 text-sm">
                  Closed on public holidays of {placeName(c.publicHolidays)}
                  {c.publicHolidays.works.length > 0 && `, but for ${c.publicHolidays.works.join(", ")}`}
                </p>
              )}
            </div>
            <WhereUsed of="calendar" named={c.key} name={c.name} />
            {keeps && (
              <Button small aria-label={`Change ${c.name}`} onClick={() => setOpen(c.key)}>
                Change
              </Button>
            )}
          </section>
        ),
      )}
    </div>
  );
}

const OFFICE_HOURS = "09:00-17:00";

function Editing({ calendar, zone, done }: { calendar: WorkingCalendar | null; zone: string; done(): void }) {
  const router = useRouter();
  const [name, setName] = useState(calendar?.name ?? "");
  const [place, setPlace] = useState(calendar?.zone ?? zone);
  const [hours, setHours] = useState(
    DAYS.map((_, i) => {
      if (calendar) return hoursText(calendar.week[String(i + 1)]);
      return i < 5 ? OFFICE_HOURS : "";
    }),
  );
  const [holidays, setHolidays] = useState((calendar?.holidays ?? []).join("\n"));
  const [publicHolidays, setPublic] = useState(calendar?.publicHolidays ?? null);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const keep = () => {
    const spans = hours.map(readHours);
    const unread = spans.findIndex((s) => s === null);
    if (unread >= 0)
      return setWrong(
        `${DAYS[unread]}: “${hours[unread]}” cannot be read. Write spans of time with commas, for example 09:00-13:00, 14:00-17:30; leave it empty where it is closed.`,
      );
    const days = readHolidays(holidays);
    if ("wrong" in days)
      return setWrong(`Holidays: “${days.wrong}” is no date. Write one date a line, for example 2026-12-25.`);
    const week = Object.fromEntries(spans.flatMap((s, i) => (s && s.length > 0 ? [[String(i + 1), s]] : [])));
    start(async () => {
      const r = await proved(() =>
        putCalendarAction(calendar?.key ?? null, {
          name,
          zone: place,
          week,
          holidays: days.dates,
          ...(publicHolidays ? { publicHolidays } : {}),
        }),
      );
      if (!r.ok) return setWrong(r.sentence);
      say(`${name} is kept.`);
      done();
      router.refresh();
    });
  };
  return (
    <form
      className="grid gap-3 border-t border-line-strong py-4"
      aria-label={calendar ? `Change ${calendar.name}` : "Add a working calendar"}
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <div className="grid max-w-2xl gap-3 sm:grid-cols-2">
        <label className="block">
          <span className="mb-1 block text-sm">Name</span>
          <input
            className="input"
            required
            value={name}
            placeholder="Office hours"
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label className="block">
          <span className="mb-1 block text-sm">Time zone</span>
          <input
            className="input"
            required
            value={place}
            placeholder="Europe/Dublin"
            onChange={(e) => setPlace(e.target.value)}
          />
        </label>
      </div>
      <div className="grid max-w-2xl gap-x-8 gap-y-3 sm:grid-cols-2">
        <fieldset className="grid content-start gap-1.5">
          <legend className="mb-1 text-sm">Hours</legend>
          {DAYS.map((d, i) => (
            <label key={d} className="grid grid-cols-[6.5rem_1fr] items-center">
              <span className="text-soft">{d}</span>
              <input
                className="input"
                value={hours[i]}
                placeholder="closed"
                onChange={(e) => setHours(hours.map((h, k) => (k === i ? e.target.value : h)))}
              />
            </label>
          ))}
        </fieldset>
        <label className="block">
          <span className="mb-1 block text-sm">Holidays, one date a line</span>
          <textarea
            rows={11}
            className="input font-mono text-sm"
            value={holidays}
            placeholder="2026-12-25"
            onChange={(e) => setHolidays(e.target.value)}
          />
        </label>
      </div>
      <HolidaysOf value={publicHolidays} onChange={setPublic} />
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        <Button onClick={done}>Leave as it was</Button>
        {calendar && (
          <Button
            look="brick"
            disabled={busy}
            onClick={() =>
              start(async () => {
                const r = await proved(() => removeCalendarAction(calendar.key));
                if (!r.ok) return setWrong(r.sentence);
                say(`${calendar.name} is removed.`);
                done();
                router.refresh();
              })
            }
          >
            Remove this calendar
          </Button>
        )}
      </div>
    </form>
  );
}

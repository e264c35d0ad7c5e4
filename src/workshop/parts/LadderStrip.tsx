"use client";
import { Temporal } from "temporal-polyfill";
import { openingsOn, type WorkingCalendar } from "@/core/calendar";
import type { LadderDates } from "@/core/engine";
import { rungKind } from "@/core/kinds";
import { useRef, useState, type PointerEvent } from "react";
import type { Rung } from "@/core/route";
import { KINDS } from "@/kinds";
import { whenText } from "@/ui";
import { useRuleText } from "./ruleText";

const DAY = 86_400_000;
const WIDTH = 560;
const HEIGHT = 78;
/** Days whose hours are drawn. */
const MOST_DAYS = 120;
const dayName = (far: boolean) =>
  new Intl.DateTimeFormat(
    "en-IE",
    far
      ? { day: "numeric", month: "short", year: "2-digit", timeZone: "UTC" }
      : { weekday: "short", day: "numeric", timeZone: "UTC" },
  );

export type StripMark = "limit" | Rung;
export interface StripDrag {
  /** Whether a mark can be drawn elsewhere. */
  may(mark: StripMark): boolean;
  /** What it would be there, in words. */
  says(mark: StripMark, at: number): string;
  put(mark: StripMark, at: number): void;
}

/** The ladder on real days: closed hours hatched, the limit a post, rungs as marks before and after it. */
export function LadderStrip({
  calendar,
  openedAt,
  dates,
  rungs,
  said = "",
  drag,
}: {
  calendar: WorkingCalendar;
  openedAt: number;
  dates: LadderDates;
  rungs: readonly Rung[];
  /** Behind the day it falls on. */
  said?: string;
  /** What comes of it where a mark is drawn elsewhere; absent where none can be. */
  drag?: StripDrag;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{ mark: StripMark; at: number } | null>(null);
  const text = useRuleText();
  const words = (r: Rung) => rungKind(KINDS, r.action).words(r.action, (rule) => text(rule, true));
  if (dates.due === null)
    return <p className="text-sm text-brick">This calendar is never open, so the limit is never reached.</p>;
  const last = Math.max(dates.due, ...dates.rungs.map((r) => r.at));
  const from = openedAt - 4 * 3_600_000;
  const to = last + Math.max(6 * 3_600_000, (last - openedAt) * 0.06);
  const x = (ms: number) => ((ms - from) / (to - from)) * WIDTH;
  const momentAt = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect();
    const part = Math.min(1, Math.max(0, (e.clientX - box.left) / box.width));
    // Whole milliseconds: a moment has no parts of them.
    return Math.round(from + part * (to - from));
  };
  const hold = (mark: StripMark) => (e: PointerEvent) => {
    if (!drag?.may(mark)) return;
    e.preventDefault();
    svg.current!.setPointerCapture(e.pointerId);
    setHeld({ mark, at: momentAt(e) });
  };
  const letGo = () => {
    setHeld(null);
    if (held) drag?.put(held.mark, held.at);
  };
  const placeOf = (mark: StripMark, at: number) =>
    x(
      held && (held.mark === mark || (held.mark !== "limit" && mark !== "limit" && held.mark.id === mark.id))
        ? held.at
        : at,
    );
  const grab = (mark: StripMark) => (drag?.may(mark) ? { cursor: "ew-resize", touchAction: "none" } : {});
  const days: { start: number; end: number; spans: readonly (readonly [number, number])[]; name: string }[] =
    [];
  const all = (to - from) / DAY;
  const every = Math.max(1, Math.ceil(all / 9));
  // Of very many days no hours can be seen: then only those that are named are gone through.
  const far = all > MOST_DAYS;
  let day = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(calendar.zone).toPlainDate();
  for (;;) {
    const start = day.toZonedDateTime(calendar.zone).epochMilliseconds;
    if (start > to) break;
    days.push({
      start,
      end: start + DAY,
      spans: far ? [] : openingsOn(calendar, day),
      name: dayName(far).format(Date.UTC(day.year, day.month - 1, day.day)),
    });
    day = day.add({ days: far ? every : 1 });
  }
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        ref={svg}
        onPointerMove={(e) => held && setHeld({ ...held, at: momentAt(e) })}
        onPointerUp={letGo}
        onPointerCancel={() => setHeld(null)}
        aria-label={`Limit ${whenText(dates.due, calendar.zone)}. ${dates.rungs.map((r) => `${words(r.rung)} ${whenText(r.at, calendar.zone)}`).join(". ")}`}
      >
        <defs>
          <pattern
            id="closed"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="5" stroke="var(--line-strong)" strokeWidth="1.2" />
          </pattern>
        </defs>
        <rect x={0} y={24} width={WIDTH} height={22} fill={far ? "var(--raised)" : "url(#closed)"} />
        {days.flatMap((d) =>
          d.spans.map(([a, b]) => (
            <rect
              key={a}
              x={x(a)}
              y={24}
              width={Math.max(0, x(b) - x(a))}
              height={22}
              fill="var(--raised)"
              stroke="var(--line)"
            />
          )),
        )}
        {days.map(
          (d, i) =>
            (far || i % every === 0) && (
              <text key={d.start} x={x(d.start) + 3} y={62} fontSize="11" fill="var(--ink-soft)">
                {x(d.start) > -30 ? d.name : ""}
              </text>
            ),
        )}
        <line x1={x(openedAt)} x2={x(openedAt)} y1={18} y2={50} stroke="var(--ink)" strokeWidth="1.5" />
        <text x={Math.max(0, x(openedAt) - 14)} y={13} fontSize="11" textAnchor="start" fill="var(--ink)">
          asked
        </text>
        <rect
          data-mark="limit"
          x={placeOf("limit", dates.due) - 2.5}
          y={14}
          width={5}
          height={36}
          fill="var(--brick)"
          rx={1.5}
          style={grab("limit")}
          onPointerDown={hold("limit")}
        />
        <text x={placeOf("limit", dates.due)} y={10} fontSize="11" textAnchor="middle" fill="var(--brick)">
          limit
        </text>
        {dates.rungs.map((r, i) => (
          <ellipse
            key={i}
            data-mark={r.turn > 1 ? undefined : r.rung.id}
            cx={r.turn > 1 ? x(r.at) : placeOf(r.rung, r.at)}
            cy={35}
            rx={6}
            ry={5}
            fill="var(--moss)"
            stroke="var(--raised)"
            strokeWidth="1.5"
            {...(r.turn > 1 ? {} : { style: grab(r.rung), onPointerDown: hold(r.rung) })}
          />
        ))}
        {dates.rungs.map((r, i) => (
          <text
            key={`t${i}`}
            x={Math.min(WIDTH - 4, Math.max(4, x(r.at)))}
            y={76}
            fontSize="10"
            textAnchor={x(r.at) > WIDTH - 40 ? "end" : "middle"}
            fill="var(--moss)"
          >
            {r.turn > 1 ? "" : String(rungs.indexOf(r.rung) + 1)}
          </text>
        ))}
      </svg>
      <figcaption className="text-sm text-soft">
        {held ? (
          <span className="text-ink">{drag?.says(held.mark, held.at)}</span>
        ) : (
          <>
            Asked now, the limit falls on{" "}
            <span className="text-ink">{whenText(dates.due, calendar.zone)}</span>
            {said} ({calendar.name}).{dates.due <= openedAt && " It is over as soon as it is asked."}
          </>
        )}
      </figcaption>
    </figure>
  );
}

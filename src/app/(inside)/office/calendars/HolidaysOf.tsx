"use client";
import { useEffect, useState } from "react";
import type { PublicHolidays } from "@/core/calendar";
import type { PlacesOfHolidays } from "@/services";
import { dateText, Select } from "@/ui";
import { holidayPlacesAction } from "../../../actions/people";

/** Which public holidays a calendar is closed on: those of a country or region, but for those that are not ticked. */
export function HolidaysOf({
  value,
  onChange,
}: {
  value: PublicHolidays | null;
  onChange(of: PublicHolidays | null): void;
}) {
  const [known, setKnown] = useState<PlacesOfHolidays | null>(null);
  const [wrong, setWrong] = useState("");
  const { country = null, region = null } = value ?? {};
  useEffect(() => {
    let here = true;
    void holidayPlacesAction(country, region)
      .catch(() => null)
      .then((r) => {
        if (!here) return;
        if (r?.ok) setKnown(r.value);
        setWrong(r?.ok ? "" : (r?.sentence ?? "The holidays could not be asked for; try again in a moment."));
      });
    return () => {
      here = false;
    };
  }, [country, region]);
  const pick = (next: Omit<PublicHolidays, "works"> | null) => onChange(next && { ...next, works: [] });
  const closed = (name: string, is: boolean) => {
    if (!value) return;
    const works = value.works.filter((w) => w !== name);
    onChange({ ...value, works: is ? works : [...works, name] });
  };
  return (
    <fieldset className="max-w-2xl">
      <legend className="mb-1 text-sm">Public holidays</legend>
      <div className="grid gap-3 sm:grid-cols-2">
        <Select
          aria-label="Country"
          value={country ?? ""}
          empty={known ? "None" : "Being asked for…"}
          options={(known?.countries ?? []).map((c) => ({ value: c.code, label: c.name }))}
          onPick={(code) => pick(code === "" ? null : { country: code })}
        />
        {country !== null && (known?.regions.length ?? 0) > 0 && (
          <Select
            aria-label="Region"
            value={region ?? ""}
            empty="All of it"
            options={(known?.regions ?? []).map((c) => ({ value: c.code, label: c.name }))}
            onPick={(code) => pick({ country, ...(code === "" ? {} : { region: code }) })}
          />
        )}
      </div>
      {wrong && (
        <p role="alert" className="mt-1 text-sm text-brick">
          {wrong}
        </p>
      )}
      {value && known && known.days.length > 0 && (
        <>
          <p className="mt-2 mb-1 text-sm text-soft">
            Closed on those that are ticked, in years to come as well. A date that is closed besides stands
            above.
          </p>
          <ul className="grid gap-x-6 text-sm sm:grid-cols-2">
            {byName(known.days).map(({ name, dates, often }) => (
              <li key={name}>
                <label className="flex min-h-8 items-start gap-2 py-1">
                  <input
                    type="checkbox"
                    className="mt-1"
                    checked={!value.works.includes(name)}
                    onChange={(e) => closed(name, e.target.checked)}
                  />
                  <span>
                    {name}
                    <span className="block text-soft">
                      {dates.map((d) => dateText(d)).join(" · ")}
                      {often && "; offices are often open"}
                    </span>
                  </span>
                </label>
              </li>
            ))}
          </ul>
        </>
      )}
    </fieldset>
  );
}

/** The days of each holiday, in the order of the year. */
function byName(days: PlacesOfHolidays["days"]) {
  const out = new Map<string, { name: string; dates: string[]; often: boolean }>();
  for (const { name, date, often } of days) {
    const of = out.get(name) ?? { name, dates: [], often };
    of.dates.push(date);
    out.set(name, of);
  }
  return [...out.values()];
}

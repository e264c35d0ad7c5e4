import { getPool } from "@/db";
import {
  countriesKnown,
  holidaysOf,
  isPlaceOfHolidays,
  regionsKnown,
  type HolidayOf,
} from "@/outside/holidays";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";

export interface PlacesOfHolidays {
  countries: { code: string; name: string }[];
  /** Of the country that was asked for. */
  regions: { code: string; name: string }[];
  /** Of this year and the next. */
  days: readonly HolidayOf[];
}

/** The countries holidays are known of, and those of one of them, or a region of it. */
export const holidayPlaces = defineUseCase(
  ["see office"],
  async (c, country: string | null, region: string | null): Promise<PlacesOfHolidays> => {
    c.must({ action: "see office" }, { code: "not-allowed", data: { action: "see holidays" } });
    const countries = await countriesKnown();
    if (country === null) return { countries, regions: [], days: [] };
    const place = { country, ...(region === null ? {} : { region }), works: [] };
    if (!(await isPlaceOfHolidays(place)))
      throw new Failed({ code: "not-found", data: { what: "country or region", id: country } });
    const year = new Date(await nowMs(getPool())).getUTCFullYear();
    const days = await holidaysOf(place, { from: year, to: year + 1 });
    return { countries, regions: await regionsKnown(country), days };
  },
);

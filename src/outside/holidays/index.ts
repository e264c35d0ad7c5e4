export {
  countriesKnown,
  holidaysOf,
  isPlaceOfHolidays,
  regionsKnown,
  withPublicHolidays,
  type HolidayOf,
} from "./publicHolidays";

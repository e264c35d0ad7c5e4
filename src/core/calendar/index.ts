export {
  lengthInWords,
  type Length,
  type LengthUnit,
  type PublicHolidays,
  type Span,
  type WorkingCalendar,
} from "./workingCalendar";
export { MOST_RULE, ruleMistake, ruleParts, tidyRule, type DayRule, type DaysOfRule } from "./dayRule";
export { ruleWords } from "./ruleWords";
export { timetableDays, type OnClosed, type Timetable } from "./timetable";
export { openingsOn } from "./openings";
export { lengthBetween } from "./lengthBetween";
export { quietUntil, type QuietHours } from "./quietUntil";
export { addLength, endOfWork, workingBetween } from "./workingTime";
export { addWorkingDays, workingDaysBetween } from "./workingDays";

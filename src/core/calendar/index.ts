export {
  lengthInWords,
  type Length,
  type LengthUnit,
  type Span,
  type WorkingCalendar,
} from "./workingCalendar";
export { timetableDays, type OnClosed, type Timetable } from "./timetable";
export { openingsOn } from "./openings";
export { addLength, workingBetween } from "./workingTime";
export { addWorkingDays, workingDaysBetween } from "./workingDays";

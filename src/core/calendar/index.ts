export {
  lengthInWords,
  type Length,
  type LengthUnit,
  type Span,
  type WorkingCalendar,
} from "./workingCalendar";
export { addLength, openingsOn, workingBetween } from "./workingTime";
export { addWorkingDays, workingDaysBetween } from "./workingDays";

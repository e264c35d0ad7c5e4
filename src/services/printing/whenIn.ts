import { LANGUAGE } from "./printPaper";

/** A moment with its year: it is read long after. */
export const whenIn = (zone: string): ((ms: number) => string) => {
  const format = new Intl.DateTimeFormat(LANGUAGE, {
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
    timeZone: zone,
  });
  return (ms) => format.format(ms);
};

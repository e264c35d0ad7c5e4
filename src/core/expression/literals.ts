import { Temporal } from "temporal-polyfill";
import type { Value } from "./values";

const attempt = <T>(f: () => T): T | null => {
  try {
    return f();
  } catch (e) {
    // Temporal says RangeError for a text that is no date; anything else is a bug of ours.
    if (e instanceof RangeError) return null;
    throw e;
  }
};

export const dateFrom = (text: string): Temporal.PlainDate | null =>
  /^-?\d{4,9}-\d\d-\d\d$/.test(text) ? attempt(() => Temporal.PlainDate.from(text, { overflow: "reject" })) : null;

export const timeFrom = (text: string): Temporal.PlainTime | null =>
  /^T?\d\d:\d\d(:\d\d(\.\d+)?)?$/.test(text) ? attempt(() => Temporal.PlainTime.from(text)) : null;

/** A text without offset or zone is read in `zone`. */
export function dateTimeFrom(text: string, zone: string): Temporal.ZonedDateTime | null {
  if (!/^-?\d{4,9}-\d\d-\d\dT\d\d:\d\d/.test(text)) return null;
  const named = /@([\w/+-]+)$/.exec(text);
  const bare = named ? text.slice(0, named.index) : text;
  if (/(Z|[+-]\d\d:\d\d)$/.test(bare)) return attempt(() => Temporal.Instant.from(bare).toZonedDateTimeISO(zone));
  return attempt(() => Temporal.PlainDateTime.from(bare).toZonedDateTime(named?.[1] ?? zone));
}

export const durationFrom = (text: string): Temporal.Duration | null =>
  /^-?P(?=.)(\d+Y)?(\d+M)?(\d+D)?(T(?=.)(\d+H)?(\d+M)?(\d+(\.\d+)?S)?)?$/.test(text)
    ? attempt(() => Temporal.Duration.from(text))
    : null;

/** `@"..."` (DMN 1.5, 10.3.2.3.7): whichever of the four the text is. */
export const atLiteral = (text: string, zone: string): Value =>
  dateFrom(text) ?? dateTimeFrom(text, zone) ?? timeFrom(text) ?? durationFrom(text);

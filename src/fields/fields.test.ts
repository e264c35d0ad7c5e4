import { Temporal } from "temporal-polyfill";
import { dateTimeFrom, durationFrom, timeFrom, toNum, valueText, type Value } from "@/core/expression";
import { keptAs, type FieldKind, type ValueFacts } from "@/core/form";
import { FIELDS } from "./kinds";

const FACTS: ValueFacts = {
  person: () => new Map(),
  record: () => new Map(),
  isPerson: () => false,
  isRecord: () => false,
  file: () => null,
  request: () => null,
};
const field = (kind: FieldKind) => ({ id: "f", name: "It", kind });
/** What a form says of a typed value: its problems, or how formulas read it. */
const typed = (kind: FieldKind, raw: string) => {
  const f = field(kind);
  const v = FIELDS[kind].value(f, raw, FACTS);
  const wrong = FIELDS[kind].mistakes(f, raw, v).map((m) => m.code);
  if (wrong.length > 0) return wrong[0];
  return v === null ? null : valueText(v);
};
const kept = (kind: FieldKind, v: Value) => {
  const r = keptAs(field(kind), v, FIELDS, FACTS);
  return "kept" in r ? r.kept : "cannot";
};

it.each([
  ["time", "14:30", "14:30:00"],
  ["time", "00:00", "00:00:00"],
  ["time", "24:00", "not-a-time"],
  ["time", "9:05", "not-a-time"],
  ["time", "14:30:15", "not-a-time"],
  ["time", "14:30Z", "not-a-time"],
  ["date and time", "2026-11-30T14:30", "2026-11-30T14:30:00"],
  ["date and time", "2028-02-29T00:00", "2028-02-29T00:00:00"],
  ["date and time", "2026-02-29T10:00", "not-a-moment"],
  ["date and time", "2026-11-30", "not-a-moment"],
  ["date and time", "2026-11-30 14:30", "not-a-moment"],
  ["date and time", "2026-11-30T14:30Z", "not-a-moment"],
  ["date and time", "0000-01-01T00:00", "not-a-moment"],
  ["e-mail", "una.quirke@quillhaven.example", "una.quirke@quillhaven.example"],
  ["e-mail", "una@quillhaven", "not-an-address"],
  ["e-mail", "una@@quillhaven.example", "not-an-address"],
  ["e-mail", "Una Quirke <una@quillhaven.example>", "not-an-address"],
  ["e-mail", "una@quillhaven.example, dov@quillhaven.example", "not-an-address"],
  ["e-mail", "una@quillhaven..example", "not-an-address"],
  ["e-mail", `${"u".repeat(250)}@a.example`, "not-an-address"],
  ["web address", "https://quillhaven.example", "https://quillhaven.example"],
  ["web address", "HTTP://quillhaven.example:8080/visit?a=1#b", "HTTP://quillhaven.example:8080/visit?a=1#b"],
  ["web address", "quillhaven.example", "not-a-web-address"],
  ["web address", "javascript:alert(1)", "not-a-web-address"],
  ["web address", "https://", "not-a-web-address"],
  ["web address", "https://quillhaven.example/a b", "not-a-web-address"],
  ["web address", 'https://quillhaven.example/"onclick=', "not-a-web-address"],
  // Who is asked for by a name before the place would be taken for the place.
  ["web address", "https://quillhaven.example@elsewhere.example/", "not-a-web-address"],
  ["telephone", "+353 21 555 0142", "+353 21 555 0142"],
  ["telephone", "(021) 555-0142 ext. 12", "(021) 555-0142 ext. 12"],
  ["telephone", "112", "112"],
  ["telephone", "12", "not-a-telephone"],
  ["telephone", "ask Una", "not-a-telephone"],
  ["telephone", "+353 21 555 0142 or 0143", "not-a-telephone"],
  ["telephone", "1234567890123456", "not-a-telephone"],
  ["whole number", "12", "12"],
  ["whole number", "-3", "-3"],
  ["whole number", "12.0", "12"],
  ["whole number", "12.5", "too-many-decimals"],
  ["whole number", "a dozen", "not-a-number"],
  ["percentage", "12.5", "12.5"],
  ["percentage", "12,500", "two-readings"],
  ["percentage", "half", "not-a-number"],
  ["length of time", "PT1H30M", "PT1H30M"],
  ["length of time", "P2DT4H", "P2DT4H"],
  ["length of time", "P1M", "not-a-length"],
  ["length of time", "-PT1H", "not-a-length"],
  ["length of time", "1 h 30 min", "not-a-length"],
  [
    "postal address",
    '{"lines":"12 Quay Street\\nFlat 2","town":"Cork","postcode":"T12 Y3N8","country":"Ireland"}',
    "12 Quay Street, Flat 2, T12 Y3N8 Cork, Ireland",
  ],
  ["postal address", '{"lines":"","town":"Cork","postcode":"","country":""}', "not-a-postal-address"],
  ["postal address", '{"lines":"12 Quay Street","town":" "}', "not-a-postal-address"],
  ["postal address", '{"lines":"a\\nb\\nc\\nd","town":"Cork"}', "too-many-lines"],
  ["postal address", `{"lines":"12 Quay Street","town":"${"o".repeat(81)}"}`, "too-long"],
  ["postal address", '{"lines":"12 Quay Street","town":"Cork","__proto__":"x"}', "not-a-text"],
  ["postal address", '["12 Quay Street"]', "not-a-text"],
  ["postal address", "12 Quay Street, Cork", "not-a-text"],
] as const)("%s reads %s as %s", (kind, raw, is) => {
  expect(typed(kind, raw)).toBe(is);
});

it.each([
  [{ text: "12.5 %" }, "12.5"],
  [{ text: "12.5" }, "12.5"],
  // As a spreadsheet keeps what it shows as 12.5 %.
  [{ text: "0.125", typed: true, hundredths: "12.5" }, "12.5"],
  [{ text: "0.125", typed: true }, "0.125"],
  [{ text: "" }, null],
  [{ text: "half" }, "half"],
] as const)("a cell with %j is a percentage of %j", (cell, is) => {
  const ctx = { reading: { dates: "day", decimal: "." }, named: () => ({ why: "none" as const }) } as const;
  expect(FIELDS.percentage.cell!(field("percentage"), cell, ctx)).toEqual({ kept: is });
});

it("what is worked out is kept to the minute that has begun, by the clock on the wall, and reads back as it is", () => {
  expect(kept("time", timeFrom("14:30:59.9"))).toBe("14:30");
  expect(kept("time", timeFrom("14:30:00+05:00"))).toBe("14:30");
  expect(kept("date and time", dateTimeFrom("2026-11-30T14:30:59"))).toBe("2026-11-30T14:30");
  expect(kept("date and time", dateTimeFrom("2026-11-30T23:59:59@America/Halifax"))).toBe("2026-11-30T23:59");
  expect(kept("date and time", Temporal.PlainDate.from("2026-11-30"))).toBe("2026-11-30T00:00");
  expect(kept("time", "half past two")).toBe("cannot");
  expect(kept("time", dateTimeFrom("2026-11-30T14:30:00"))).toBe("cannot");
  expect(kept("date and time", timeFrom("14:30:00"))).toBe("cannot");
  expect(kept("date and time", dateTimeFrom("12026-11-30T14:30:00"))).toBe("cannot");
  expect(kept("e-mail", "una@quillhaven.example")).toBe("una@quillhaven.example");
  expect(kept("e-mail", "una")).toBe("cannot");
  expect(kept("length of time", durationFrom("PT90M"))).toBe("PT1H30M");
  expect(kept("length of time", durationFrom("P1Y"))).toBe("cannot");
  expect(kept("whole number", toNum("2.5"))).toBe("cannot");
  expect(kept("telephone", "later")).toBe("cannot");
  expect(kept("date", Temporal.PlainDate.from("2026-11-30"))).toBe("2026-11-30");
});

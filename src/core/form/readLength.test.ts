import { lengthText, readLength } from "./readLength";

it.each([
  ["1 h 30 min", "PT1H30M", "1 hour 30 minutes"],
  ["1h30m", "PT1H30M", "1 hour 30 minutes"],
  ["1:30", "PT1H30M", "1 hour 30 minutes"],
  ["90 minutes", "PT1H30M", "1 hour 30 minutes"],
  ["1.5 hours", "PT1H30M", "1 hour 30 minutes"],
  ["1,5 h", "PT1H30M", "1 hour 30 minutes"],
  ["2 days, 4 hours and 5 mins", "P2DT4H5M", "2 days 4 hours 5 minutes"],
  ["36 h", "P1DT12H", "1 day 12 hours"],
  ["0 min", "PT0S", "0 minutes"],
  ["0:05", "PT5M", "5 minutes"],
  ["pt45m", "PT45M", "45 minutes"],
  ["P1D", "P1D", "1 day"],
])("%j is %s, and reads %j", (text, iso, words) => {
  expect(readLength(text)).toBe(iso);
  expect(lengthText(iso)).toBe(words);
  // As it reads it can be written.
  expect(readLength(words)).toBe(iso);
});
it.each([
  "",
  "90",
  "1 hour and a bit",
  "an hour",
  "-1 h",
  "-PT1H",
  "1:75",
  "P1M",
  "1 year",
  "1 h 30",
  "0.33 min",
  "9999999 days",
  "2 weeks",
  "1 constructor",
])("%j is none", (text) => {
  expect(readLength(text)).toBeNull();
});
it("what is none reads as it stands", () => {
  expect(lengthText("soon")).toBe("soon");
});

import { sizeText } from "./size";
import { dateText, dayText, moneyText, numberText, whenText } from "./when";

const T = Date.UTC(2026, 2, 29, 0, 30);
it("times are told in the reader's zone, with the weekday, also around a clock change", () => {
  expect(whenText(T, "Europe/Dublin")).toMatch(/^Sun,? 29 Mar,? 00:30$/);
  expect(whenText(T + 3_600_000, "Europe/Dublin")).toMatch(/^Sun,? 29 Mar,? 02:30$/);
  expect(whenText(T, "America/Halifax")).toMatch(/^Sat,? 28 Mar,? 21:30$/);
  expect(dayText(T, "America/Halifax")).toMatch(/^Sat,? 28 Mar 2026$/);
});
it("a date has no zone; what is no date stays as it is", () => {
  expect(dateText("2026-11-30")).toMatch(/^Mon,? 30 Nov 2026$/);
  expect(dateText("soon")).toBe("soon");
});
it.each([
  ["612.4", "612.40"],
  ["0", "0.00"],
  ["-1234567.5", "-1\u202f234\u202f567.50"],
  ["1000", "1\u202f000.00"],
])("money %s is %s", (text, want) => expect(moneyText(text)).toBe(want));
it.each([
  ["612.4", "612.4"],
  ["1000000", "1\u202f000\u202f000"],
  ["12", "12"],
])("a number %s is %s", (text, want) => expect(numberText(text)).toBe(want));

it.each([
  [0, "0 bytes"],
  [1, "1 byte"],
  [999, "999 bytes"],
  [1000, "1 KB"],
  [340_400, "340 KB"],
  [999_499, "999 KB"],
  [999_500, "1 MB"],
  [1_240_000, "1.2 MB"],
  [25_000_000, "25 MB"],
])("says %i bytes as %s", (bytes, text) => expect(sizeText(bytes)).toBe(text));

import { ruleMistake, ruleParts, type DayRule } from "./dayRule";

const DAYS: Readonly<Record<string, string>> = {
  MO: "Monday",
  TU: "Tuesday",
  WE: "Wednesday",
  TH: "Thursday",
  FR: "Friday",
  SA: "Saturday",
  SU: "Sunday",
};
const MONTHS = "January February March April May June July August September October November December".split(
  " ",
);
const UNITS: Readonly<Record<string, string>> = {
  DAILY: "day",
  WEEKLY: "week",
  MONTHLY: "month",
  YEARLY: "year",
};
const NTH = ["first", "second", "third", "fourth", "fifth"];

const nth = (n: number): string => {
  if (n === -1) return "last";
  if (n < 0) return `${-n}. last`;
  return NTH[n - 1] ?? `${n}.`;
};
const listed = (of: readonly string[]): string =>
  of.length < 2 ? of.join("") : `${of.slice(0, -1).join(", ")} and ${of.at(-1)}`;
const listOf = (parts: ReadonlyMap<string, string>, name: string): string[] =>
  (parts.get(name) ?? "").split(",").filter(Boolean);

/** A rule for days as people say it; one that has no short way of being said stands as it is written. */
export function ruleWords({ rule, from }: DayRule): string {
  if (ruleMistake({ rule, from }) !== null) return "by a rule";
  const parts = ruleParts(rule);
  if (parts.has("BYYEARDAY") || parts.has("BYWEEKNO") || parts.has("WKST"))
    return `by the rule ${rule}, counted from ${dated(from)}`;
  const many = Number(parts.get("INTERVAL") ?? "1");
  const unit = UNITS[parts.get("FREQ")!]!;
  const months = listOf(parts, "BYMONTH").map((m) => MONTHS[Number(m) - 1]!);
  const on = onDays(parts);
  const counted = many > 1 || on === "" || parts.has("COUNT");
  return [
    many === 1 ? `every ${unit}` : `every ${many} ${unit}s`,
    months.length > 0 ? ` in ${listed(months)}` : "",
    on,
    ending(parts),
    counted ? `, counted from ${dated(from)}` : "",
  ].join("");
}

function onDays(parts: ReadonlyMap<string, string>): string {
  const days = listOf(parts, "BYDAY").map((d) => {
    const name = DAYS[d.slice(-2)]!;
    const n = Number(d.slice(0, -2));
    return n === 0 ? name : `the ${nth(n)} ${name}`;
  });
  const ofMonth = listOf(parts, "BYMONTHDAY").map((n) =>
    Number(n) < 0 ? `the ${nth(Number(n))} day` : `the ${Number(n)}.`,
  );
  const places = listOf(parts, "BYSETPOS").map((n) => `the ${nth(Number(n))}`);
  const both = [...(days.length > 0 ? [listed(days)] : []), ...(ofMonth.length > 0 ? [listed(ofMonth)] : [])];
  if (both.length === 0) return "";
  const said = ` on ${both.join(", where it is ")}`;
  return places.length > 0 ? `${said}, of these ${listed(places)}` : said;
}

function ending(parts: ReadonlyMap<string, string>): string {
  const [count, until] = [parts.get("COUNT"), parts.get("UNTIL")];
  if (count !== undefined) return count === "1" ? ", once" : `, ${Number(count)} times`;
  return until === undefined
    ? ""
    : `, until ${dated(`${until.slice(0, 4)}-${until.slice(4, 6)}-${until.slice(6)}`)}`;
}

const dated = (iso: string): string => {
  const [y, m, d] = iso.split("-").map(Number);
  return `${d} ${MONTHS[m! - 1]} ${y}`;
};

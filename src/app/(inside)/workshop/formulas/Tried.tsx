"use client";
import { useMemo, useState } from "react";
import { Temporal } from "temporal-polyfill";
import {
  ANY,
  context,
  DATE,
  fromPlain,
  listOf,
  NUMBER,
  PERSON,
  TEXT,
  YESNO,
  type Scope,
  type Surroundings,
  type Value,
} from "@/core/expression";
import { personValue } from "@/core/form";
import { addWorkingDays, workingDaysBetween, type WorkingCalendar } from "@/core/calendar";
import { FormulaField } from "@/formula";
import { Empty } from "@/ui";

interface Section {
  title: string;
  functions: { name: string; signature: string; says: string; example: string; gives: string }[];
}

const SCOPE: Scope = {
  Project: TEXT,
  Reason: TEXT,
  Urgent: YESNO,
  Total: NUMBER,
  "Needed by": DATE,
  Requester: PERSON,
  Items: listOf(context({ Item: TEXT, Quantity: NUMBER, Price: NUMBER, Note: TEXT })),
};
const LANGUAGE: [string, string, string][] = [
  [
    "and, or, not",
    "Both, either, the opposite. What is empty is unknown: yes and unknown is unknown, no and unknown is no.",
    "Total > 500 and not(Urgent)",
  ],
  ["= != < <= > >=", "Compare two values of the same kind.", 'Requester.department = "Conservation"'],
  [
    "between, in",
    "Inside a range: [1..5] with both ends, (1..5) without; or one of several.",
    'Total in [100..1000) and Project in ("Guild banners", "Lamps")',
  ],
  ["if then else", "One value or the other.", "if Urgent then 1 else 2"],
  [
    "+ - * / **",
    "Numbers are exact, to 34 digits. + also joins text and moves dates by a length of time.",
    'Needed by + @"P3D"',
  ],
  [
    "list[condition]",
    "The lines for which the condition holds; its columns are names inside.",
    "count(Items[Quantity > 5])",
  ],
  ["list[number]", "One line by its position; -1 is the last.", "Items[-1].Item"],
  ["list.column", "That column of all lines.", "Items.Quantity"],
  ["for … return", "Works something out for each line.", "sum(for i in Items return i.Quantity * i.Price)"],
  [
    "some, every",
    "Whether it holds for at least one, or for all.",
    "some i in Items satisfies i.Quantity > 8",
  ],
  ['@"…"', "A date, time or length of time, written in ISO 8601.", '@"2026-03-01" + @"P1M"'],
  [
    "{ }",
    "A group of values; later ones may read earlier ones.",
    "{net: Total, tax: net * 0.23, gross: net + tax}.gross",
  ],
];
const hours: [string, string][] = [["09:00", "17:00"]];
const CALENDAR: WorkingCalendar = {
  key: "example",
  name: "Office hours",
  zone: "Europe/Dublin",
  week: Object.fromEntries(["1", "2", "3", "4", "5"].map((d) => [d, hours])),
  holidays: [],
};

const person = (id: string, name: string) =>
  personValue({
    id,
    name,
    email: `${id}@quillhaven.example`,
    jobTitle: "Conservator",
    department: "Conservation",
    site: "Tower House",
  });

/** Examples over one made-up order, all of them running here in the page. */
export function Tried({ sections, now, zone }: { sections: Section[]; now: number; zone: string }) {
  const [search, setSearch] = useState("");
  const around = useMemo((): Surroundings => {
    return {
      now: Temporal.Instant.fromEpochMilliseconds(now).toZonedDateTimeISO(zone),
      managerOf: () => person("sorcha.lind", "Sorcha Lind"),
      holdersOf: () => [person("sorcha.lind", "Sorcha Lind")],
      working: {
        add: (d, n) => addWorkingDays(CALENDAR, d, n),
        between: (a, b) => workingDaysBetween(CALENDAR, a, b),
      },
    };
  }, [now, zone]);
  const names = useMemo(
    () =>
      new Map<string, Value>([
        ["Project", "Guild banners"],
        ["Reason", "Needed for the banners; frost is forecast."],
        ["Urgent", false],
        ["Total", fromPlain(612.4)],
        ["Needed by", around.now.toPlainDate().add({ days: 12 })],
        ["Requester", person("piet.hanlon", "Piet Hanlon")],
        [
          "Items",
          fromPlain([
            { Item: "Gloves", Quantity: 10, Price: 3.15, Note: "size M" },
            { Item: "Tissue", Quantity: 6, Price: 14, Note: "acid-free" },
            { Item: "Gloves", Quantity: 2, Price: 3.15, Note: "size L" },
          ]),
        ],
      ]),
    [around],
  );
  const s = search.trim().toLowerCase();
  const found = sections
    .map((x) => ({
      ...x,
      functions: x.functions.filter((f) => f.name.includes(s) || f.says.toLowerCase().includes(s)),
    }))
    .filter((x) => x.functions.length > 0);
  const language = LANGUAGE.filter(([n, says]) => n.includes(s) || says.toLowerCase().includes(s));
  const field = (label: string, example: string) => (
    <Example label={label} example={example} names={names} around={around} />
  );
  return (
    <>
      <p className="mb-4 max-w-[75ch] text-soft">
        All examples read one order: project “Guild banners”, not urgent, total EUR 612.40, needed in twelve
        days, three lines of items with quantity and price, asked for by Piet Hanlon.
      </p>
      <input
        type="search"
        aria-label="Search functions"
        placeholder="Search functions, e.g. round"
        className="input mb-6 max-w-xs"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      {language.length > 0 && (
        <section className="mb-8" aria-labelledby="language">
          <h2 id="language" className="mb-2">
            The language
          </h2>
          {language.map(([name, says, example]) => (
            <Row key={name} name={name} says={says}>
              {field(`Example of ${name}`, example)}
            </Row>
          ))}
        </section>
      )}
      {found.map((section) => (
        <section key={section.title} className="mb-8" aria-label={section.title}>
          <h2 className="mb-2">{section.title}</h2>
          {section.functions.map((f) => (
            <Row
              key={f.name}
              name={f.name}
              detail={`(${f.signature})`}
              says={`${f.says}${f.gives && f.gives !== "a value" ? ` Gives ${f.gives}.` : ""}`}
            >
              {field(`Example of ${f.name}`, f.example)}
            </Row>
          ))}
        </section>
      ))}
      {found.length === 0 && language.length === 0 && (
        <Empty title={`Nothing is called “${search.trim()}”`}>
          Search by name (“sum”) or by what it does (“rounds”).
        </Empty>
      )}
    </>
  );
}

function Row({
  name,
  detail,
  says,
  children,
}: {
  name: string;
  detail?: string;
  says: string;
  children: React.ReactNode;
}) {
  return (
    <div className="grid gap-x-6 gap-y-1 border-t border-line py-2 md:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
      <div>
        <h3 className="font-mono text-[0.9rem] font-semibold">
          {name}
          {detail && <span className="font-normal text-soft">{detail}</span>}
        </h3>
        <p className="text-sm text-soft">{says}</p>
      </div>
      <div className="min-w-0">{children}</div>
    </div>
  );
}

function Example({
  label,
  example,
  names,
  around,
}: {
  label: string;
  example: string;
  names: ReadonlyMap<string, Value>;
  around: Surroundings;
}) {
  const [text, setText] = useState(example);
  return (
    <FormulaField
      label={label}
      value={text}
      onCommit={setText}
      scope={SCOPE}
      wanted={ANY}
      names={names}
      around={around}
      whose="the order"
      framed
      showResult
    />
  );
}

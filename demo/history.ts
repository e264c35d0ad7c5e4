import { addLength, type WorkingCalendar } from "@/core/calendar";
import { allTasks, isOpen, type Task } from "@/core/engine";
import type { FormData, StoredRow } from "@/core/form";
import { getPool, people as peopleQueries, requests } from "@/db";
import {
  act,
  actorOf,
  addFile,
  deliver,
  fireTimers,
  startRequest,
  type Actor,
  type Consequences,
  SYSTEM,
  type Occasion,
} from "@/services";
import { workingCalendar } from "@/contracts";
import { withPublicHolidays } from "@/outside/holidays";
import { PEOPLE } from "./people";
import { Random } from "./random";

export interface HistoryReport {
  started: number;
  finished: number;
  open: number;
  refused: number;
  ms: number;
}

type Happening =
  | { at: number; n: number; do: "start"; process: string }
  | { at: number; n: number; do: "timer"; request: string }
  | { at: number; n: number; do: "answer"; request: string; number: string; task: Task }
  | { at: number; n: number; do: "unstick"; number: string; request: string };

/** A queue in order of time; ties in order of coming. */
class Timeline {
  private heap: Happening[] = [];
  private count = 0;
  add(h: Happening extends infer X ? (X extends { n: number } ? Omit<X, "n"> : never) : never) {
    const item = { ...h, n: this.count++ } as Happening;
    const a = this.heap;
    let i = a.push(item) - 1;
    while (i > 0 && before(a[i]!, a[(i - 1) >> 1]!)) {
      [a[i], a[(i - 1) >> 1]] = [a[(i - 1) >> 1]!, a[i]!];
      i = (i - 1) >> 1;
    }
  }
  take(): Happening | undefined {
    const a = this.heap;
    const top = a[0];
    const last = a.pop();
    if (!last || a.length === 0) return top;
    a[0] = last;
    for (let i = 0; ;) {
      let least = i;
      for (const k of [2 * i + 1, 2 * i + 2]) if (k < a.length && before(a[k]!, a[least]!)) least = k;
      if (least === i) return top;
      [a[i], a[least]] = [a[least]!, a[i]!];
      i = least;
    }
  }
}
const before = (a: Happening, b: Happening) => a.at < b.at || (a.at === b.at && a.n < b.n);

const DECLINES: Record<string, string[]> = {
  "store-key": [
    "The room is being fumigated that week.",
    "Please take the supervised slot on Thursday.",
    "Not without the course.",
  ],
  supplies: [
    "The budget for this quarter is used up.",
    "We have these in stock at the Ropeworks.",
    "Please split by project.",
  ],
  "object-loan": [
    "Too fragile to travel this year.",
    "The dates clash with our own exhibition.",
    "The display conditions are not met.",
  ],
};
const RETURNS = ["Please say more about the purpose.", "Check the dates, please.", "One line looks doubled."];

/**
 * A year of work, made by running the engine under a made-up clock: people ask, decide, forget, are
 * reminded; ladders fire when nobody answers. Nothing is written that a command did not bring about.
 */
export async function runHistory(o: {
  from: number;
  until: number;
  requests: number;
  /** Stores of these sites are left alone by key requests. */
  spare: readonly string[];
  say: (line: string) => void;
}): Promise<HistoryReport> {
  const began = Date.now();
  const r = new Random(20251123);
  const entered = (await peopleQueries.allCalendars(getPool())).map((c) => workingCalendar.parse(c));
  const closed = await Promise.all(entered.map((c) => withPublicHolidays(c, o.until)));
  const calendars = new Map(closed.map((c) => [c.key, c]));
  const office = calendars.get("office")!;
  const actors = new Map<string, Actor>();
  for (const p of PEOPLE) actors.set(p.id, (await actorOf(getPool(), p.id))!);
  const calendarOf = (person: string): WorkingCalendar =>
    calendars.get(PEOPLE.find((p) => p.id === person)?.calendar ?? "office") ?? office;
  const objects = (
    await getPool().query("select id::text, site from register.objects where status = 'in store' order by id")
  ).rows as { id: string; site: string }[];
  const time = new Timeline();
  const report: HistoryReport = { started: 0, finished: 0, open: 0, refused: 0, ms: 0 };

  for (let i = 0; i < o.requests; i++) {
    const x = r.next();
    const larger = x < 0.92 ? "store-key" : "object-loan";
    const process = x < 0.55 ? "supplies" : larger;
    // Somewhere in the year, moved into opening hours.
    const moment = o.from + Math.floor(r.next() * (o.until - o.from));
    time.add({
      at: addLength(office, moment, { amount: r.int(0, 120) / 60, unit: "working hours" }) ?? moment,
      do: "start",
      process,
    });
  }
  // The last days before now, so that there is something to do: some of these are left lying on purpose.
  const recent = addLength(office, o.until, { amount: -2, unit: "working days" }) ?? o.until;
  for (let i = 0; i < Math.min(48, o.requests); i++) {
    const moment = addLength(office, recent, { amount: r.next() * 14, unit: "working hours" }) ?? o.until;
    time.add({
      at: Math.min(moment, o.until - i * 60_000),
      do: "start",
      process: (["supplies", "store-key", "object-loan"] as const)[i % 3]!,
    });
  }

  /** Tasks somebody is to answer, by their requests. */
  const planned = new Set<string>();
  /** Plans what follows from a command: answers by those asked, timers, notices. */
  const follow = async (request: string, number: string, { changes, outside }: Consequences, at: number) => {
    const on: Occasion = { at, withoutJobs: true };
    const tasks = new Map(changes.tasks.filter(isOpen).map((t) => [t.id, t]));
    for (const timer of changes.setTimers)
      if (timer.at <= o.until) time.add({ at: timer.at, do: "timer", request });
    for (const effect of outside) await deliver(SYSTEM, request, effect, on);
    if (outside.length > 0) {
      // What came of that is told to nobody but the request.
      const { state } = (await requests.requestByNumber(getPool(), number))!;
      for (const t of allTasks(state))
        if (isOpen(t) && !planned.has(`${request} ${t.id}`)) tasks.set(t.id, t);
      for (const t of Object.values(state.timers))
        if (t.at <= o.until) time.add({ at: t.at, do: "timer", request });
    }
    for (const task of tasks.values()) {
      planned.add(`${request} ${task.id}`);
      const who = task.holder ?? r.pick(task.candidates).person;
      // Mostly within hours; now and then something lies until the ladder moves it.
      const lies = at > recent && r.chance(0.7);
      const usual = () =>
        r.chance(0.06) ? r.skewed(40, 0.4) : r.skewed(task.purpose === "complete" ? 3 : 4);
      const hours = lies ? 20 : usual();
      const when =
        addLength(calendarOf(who), at, { amount: Math.min(hours, 200), unit: "working hours" }) ?? at;
      time.add({ at: when, do: "answer", request, number, task: { ...task, holder: who } });
    }
    if (
      !tasks.size &&
      (await getPool().query("select status from request where id = $1", [request])).rows[0]?.status ===
        "stuck"
    )
      time.add({
        at: addLength(office, at, { amount: r.skewed(3), unit: "working hours" }) ?? at,
        do: "unstick",
        number,
        request,
      });
  };

  for (let h = time.take(); h && h.at <= o.until; h = time.take()) {
    const on: Occasion = { at: h.at, withoutJobs: true };
    if (h.do === "start") {
      const person = r.pick(PEOPLE).id;
      const actor = actors.get(
        h.process === "object-loan"
          ? r.pick(["ruben.aske", "ines.corrigan", "anselm.kerr", "bridie.okafor"])
          : person,
      )!;
      const filledIn = {
        supplies: () => suppliesData(r, actor, h.at),
        "store-key": () => keyData(r, h.at, objects, o.spare),
        "object-loan": () => loanData(r, h.at),
      };
      const data = await filledIn[h.process as keyof typeof filledIn]();
      const made = data ? await startRequest(actor, h.process, data, null, on) : null;
      if (!made?.ok) {
        report.refused++;
        continue;
      }
      report.started++;
      if (report.started % 250 === 0) o.say(`${report.started} requests of the past year`);
      await follow(made.value.id, made.value.number, made.value, h.at);
    } else if (h.do === "timer") {
      const fired = await fireTimers(SYSTEM, h.request, on);
      const number = (await getPool().query("select number from request where id = $1", [h.request])).rows[0]
        .number;
      await follow(h.request, number, fired, h.at);
    } else if (h.do === "unstick") {
      const row = await requests.requestByNumber(getPool(), h.number);
      const stuck = row?.state.stuck[0];
      const owner = actors.get(row?.process_key === "object-loan" ? "maeve.dunlea" : "tobias.marrin")!;
      if (!stuck) continue;
      const done = await act(
        owner,
        h.number,
        {
          type: "skip",
          token: stuck.token,
          way: null,
          note: "Nobody was there to do it, and nothing hangs on it.",
        },
        on,
      );
      if (done.ok) await follow(h.request, h.number, done.value, h.at);
    } else {
      const actor = actors.get(h.task.holder!)!;
      const row = await requests.requestByNumber(getPool(), h.number);
      const open = row?.state.tasks[h.task.id];
      // Answered meanwhile, or moved on by the ladder: whoever has it now was planned on their own.
      if (
        !row ||
        !open ||
        (open.status !== "open" && open.status !== "taken") ||
        !open.candidates.some((c) => c.person === actor.id)
      )
        continue;
      const done = await act(
        actor,
        h.number,
        { type: "answer", task: h.task.id, ...answerFor(r, row.process_key, h.task, h.number) },
        on,
      );
      if (done.ok) await follow(h.request, h.number, done.value, h.at);
    }
  }
  const { rows } = await getPool().query(
    `
      select
        count(*) filter (
          where ended_at is not null
        )::int as finished,
        count(*) filter (
          where ended_at is null
        )::int as open
      from request
    `,
  );
  return { ...report, finished: rows[0].finished, open: rows[0].open, ms: Date.now() - began };
}

function answerFor(
  r: Random,
  process: string,
  task: Task,
  number: string,
): { answer: string; note: string; data: FormData } {
  if (task.purpose === "changes")
    return {
      answer: "sent",
      note: "",
      data: process === "store-key" ? { purpose: "Condition check, agreed with the curator" } : {},
    };
  if (task.purpose === "complete")
    return {
      answer: "done",
      note: "",
      data: {
        ...(task.step === "handover" ? { keynumber: `K-${(Number(number.slice(-4)) % 90) + 10}` } : {}),
        ...(task.step === "back" && r.chance(0.1) ? { remarks: "Tag is worn, please renew." } : {}),
      },
    };
  const x = r.next();
  if (task.step === "security" && process === "store-key")
    return x < 0.9
      ? { answer: "allow", note: "", data: {} }
      : { answer: "refuse", note: r.pick(DECLINES[process]!), data: {} };
  if (x < 0.07) return { answer: "decline", note: r.pick(DECLINES[process]!), data: {} };
  if (x < 0.12 && (task.step === "manager" || task.step === "budget" || task.step === "registrar"))
    return { answer: "return", note: r.pick(RETURNS), data: {} };
  return {
    answer: "approve",
    note: r.chance(0.15) ? "Fine with me." : "",
    data: task.step === "registrar" && r.chance(0.4) ? { remarks: "Borrower known, file complete." } : {},
  };
}

const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);
const DAY = 86_400_000;

async function suppliesData(r: Random, actor: Actor, at: number): Promise<FormData> {
  const items: StoredRow[] = Array.from({ length: r.int(1, 6) }, (_, i) => ({
    "#": String(i + 1),
    item: String(r.int(1, 24)),
    quantity: String(r.int(1, r.chance(0.2) ? 12 : 4)),
  }));
  const projects = [
    "Guild banners",
    "Pilot cutter rigging",
    "Almanac leaves",
    "Winter quay frame",
    "School boxes",
    "Tide gauge",
    "Flood photographs",
    "Store labels",
  ];
  const project = r.pick(projects);
  // Who orders much has asked a supplier first.
  const offer = `Fenwater & Sons, conservation supplies\n\nOffer of ${day(at)} to Quillhaven Museums for "${project}"\n${items.length} items, prices as in your list, delivery within five working days.\n`;
  const quote =
    items.length > 4 ? await addFile(actor, `Offer ${day(at)}.txt`, Buffer.from(offer), at) : null;
  return {
    project,
    urgent: false,
    items,
    ...(quote?.ok ? { quote: quote.value.id } : {}),
    reason: "Needed for the work planned this month; see the project file.",
  };
}

async function keyData(
  r: Random,
  at: number,
  objects: { id: string; site: string }[],
  spare: readonly string[],
): Promise<FormData | null> {
  const free = (
    await getPool().query(
      "select id::text from register.stores where key_status = 'in the cabinet' and site <> all($1) order by id",
      [spare],
    )
  ).rows as { id: string }[];
  if (free.length === 0) return null;
  const from = at + r.int(0, 6) * DAY;
  const exception = r.chance(0.15);
  return {
    store: r.pick(free).id,
    from: day(from),
    until: day(from + r.int(0, 5) * DAY),
    ...(r.chance(0.4) ? { object: r.pick(objects).id } : {}),
    purpose: r.pick([
      "Condition check before photography",
      "Measuring for a new mount",
      "Shelf audit",
      "Choosing objects for a display",
      "Pest monitoring",
      "Fetching objects for treatment",
    ]),
    trained: !exception,
    assessed: true,
    ...(exception ? { reason: "The course is booked for next month; a keeper will be with me." } : {}),
  };
}

async function loanData(r: Random, at: number): Promise<FormData> {
  const borrower = (
    await getPool().query(
      `
        select id::text, climate_report
        from register.borrowers
        where standing <> 'suspended'
        order by id
        offset $1
        limit 1
      `,
      [r.int(0, 100)],
    )
  ).rows[0];
  const dear = r.chance(0.2);
  const free = (
    await getPool().query(
      `
        select id::text
        from register.objects
        where status in ('in store', 'on show') and insured_value ${dear ? ">" : "<"} 15000
        order by id
        offset $1
        limit $2
      `,
      [r.int(0, dear ? 60 : 900), r.int(1, 5)],
    )
  ).rows as { id: string }[];
  const starts = at + r.int(60, 200) * DAY;
  return {
    borrower: borrower.id,
    exhibition: r.pick([
      "Paper harbours",
      "Winter quays",
      "Rope and wave",
      "Small hours at sea",
      "Threads of the guild",
      "A town in fog",
    ]),
    starts: day(starts),
    ends: day(starts + r.int(60, 200) * DAY),
    courier: r.chance(0.3),
    couriernote: "One courier both ways, from Tower House.",
    ...(borrower.climate_report ? {} : { climatenote: "Central plant, 50 % relative humidity, logged." }),
    objects: free.map((f, i) => ({
      "#": String(i + 1),
      object: f.id,
      display: r.pick(["case", "wall", "plinth"]),
    })),
  };
}

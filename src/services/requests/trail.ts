import type { RequestEvent } from "@/core/engine";
import {
  factsSeen,
  hiddenOfRecords,
  hiddenReads,
  labelOf,
  valueChanges,
  type AccessOf,
  type Field,
  type FormData,
  type Registers,
  type ValueChange,
} from "@/core/form";
import { trailLines, type TrailLine, type TrailNames } from "@/core/words";
import { KINDS } from "@/kinds";
import type { RecordRef } from "@/core/form";
import { engineFacts, recordsHeld, type FactsReader } from "./facts";
import type { Loaded } from "./loadRequest";
import { valueSaid } from "./valueSaid";

/** What a value was and is, in words; a whole row that came or went has neither. */
export interface ShownChange {
  name: string;
  from: string | null;
  to: string | null;
  row: "added" | "removed" | null;
}

/** A line of the trail as it is shown: who by name, the key of theirs by which a program did it, and what changed. */
export interface ShownLine extends TrailLine {
  byName: string | null;
  key: string | null;
  /** Done by a link in a mail, by a reply to one, or in a chat room; null for a page of ours, or a program. */
  means: "link" | "reply" | "chat" | null;
  changes: ShownChange[];
  /** Changes beyond those listed. */
  more: number;
}

interface FormShown {
  fields: readonly Field[];
  access: AccessOf;
}

/** What happened, out of the procedures it happened in: the ids of those calls, each with a mark behind it. */
function unwrapped(told: RequestEvent): { e: RequestEvent; within: string } {
  let e = told;
  let within = "";
  while (e.type === "in call") {
    within += `${e.call}/`;
    e = e.event;
  }
  return { e, within };
}

/** Most changes of one event that are listed. */
const MOST = 30;

/**
 * The trail without what reads fields hidden from this person, with what each event changed as far as they may see it.
 * @param seen the registers they see, as they see them
 * @param most lines, the newest; how many came before them is told
 */
export async function trailOf(
  loaded: Loaded,
  reader: FactsReader,
  names: TrailNames,
  seen: Registers,
  zone: string,
  most: number,
): Promise<{ lines: ShownLine[]; earlier: number }> {
  const { d, row, now, owner, release, procedures, access } = loaded;
  const { events, keys, means } = row;
  const { fields } = release.definition;
  const closed = hiddenOfRecords(d.registers, seen);
  const hides = hiddenReads(fields, access);
  const hidden = (read: string) => hides(read) || closed(read);
  const all = trailLines(events, names, KINDS);
  const lines = all.slice(-most);
  const since = lines[0]?.seq ?? 0;
  const changed = new Map<number, ValueChange[]>();
  /** What values were and are is named by the people, records and files they stand for. */
  const own: FormData[] = [];
  const named: RecordRef[] = [];
  /** By the calls something happened in, with what separates them; "" for the request itself. */
  const datas = new Map<string, FormData>();
  const releases = new Map<string, string>();
  // Of values in a procedure those who look after the process see what its own owners would; others see none.
  const formOf = (within: string): FormShown | null => {
    if (within === "") return { fields, access };
    const inside = owner ? procedures.releases.get(releases.get(within) ?? "") : undefined;
    return inside ? { fields: inside.definition.fields, access: inside.access("watch") } : null;
  };
  for (const told of events) {
    const { e, within } = unwrapped(told);
    if (e.type === "call opened") releases.set(`${within}${e.call.id}/`, e.call.release);
    if (e.type !== "request started" && e.type !== "data changed" && e.type !== "values set") continue;
    const data = datas.get(within) ?? {};
    const form = formOf(within);
    if (e.type !== "request started" && told.seq >= since && form) {
      changed.set(told.seq, valueChanges(form.fields, data, e.data, form.access));
      const before = Object.fromEntries(Object.keys(e.data).map((id) => [id, data[id] ?? null]));
      if (within === "") own.push(e.data, before);
      else named.push(...recordsHeld(form.fields, e.data), ...recordsHeld(form.fields, before));
    }
    datas.set(within, { ...data, ...e.data });
  }
  // With what is kept now: the form beside the trail finds its records read.
  const loadedFacts = await reader.load(named, row.state.data, ...own);
  const facts = engineFacts(d, factsSeen(loadedFacts, d.registers, seen), now, zone);
  const said = (c: ValueChange): ShownChange => {
    const name = c.what === "value" ? labelOf(c.field) : `${labelOf(c.field)}, line ${c.number}`;
    if (c.what !== "value")
      return { name, from: null, to: null, row: c.what === "row added" ? "added" : "removed" };
    return {
      name: c.row ? `${labelOf(c.row.of)}, line ${c.row.number}: ${name}` : name,
      from: valueSaid(c.field, c.from, facts),
      to: valueSaid(c.field, c.to, facts),
      row: null,
    };
  };
  // Of what a procedure reads those who look after the process see what its own owners would; others see none of it.
  const insides = new Map<string, (read: string) => boolean>();
  const hiddenIn = (id: string): ((read: string) => boolean) => {
    const known = insides.get(id);
    if (known) return known;
    const inside = owner ? procedures.releases.get(id) : undefined;
    const own = inside ? hiddenReads(inside.definition.fields, inside.access("watch")) : () => true;
    const either = (read: string) => own(read) || closed(read);
    insides.set(id, either);
    return either;
  };
  const shown = lines.map((l): ShownLine => {
    const values = changed.get(l.seq) ?? [];
    return {
      ...l,
      why: l.why.filter((x) => !x.reads.some(l.inside === undefined ? hidden : hiddenIn(l.inside))),
      byName: l.by && names.person(l.by),
      key: (l.by && keys.get(l.seq)) || null,
      means: (l.by && means.get(l.seq)) || null,
      changes: values.slice(0, MOST).map(said),
      more: Math.max(0, values.length - MOST),
    };
  });
  return { lines: shown, earlier: all.length - shown.length };
}

import { hiddenReads, partyForgotten, walkFields, type Field, type FormData } from "../form";
import { stepKind, type Kinds } from "../kinds";
import type { StepWork } from "@/steps/shapes";
import type { Effect } from "./effects";
import type { RequestEvent } from "./events";
import type { CompiledRelease } from "./release";
import type { StuckReason } from "./state";
import { forgetStored } from "./storedValue";

/** What of a request is to be forgotten. */
export interface Forgetting {
  /** Ids of fields and columns whose values go. */
  fields: ReadonlySet<string>;
  /** Whether all values of procedures go: what they were handed may come from any of these. */
  inCalls: boolean;
  /** Whether people outside, who asked or are asked, are forgotten as well: what is known of them is personal whatever a form says. */
  asker: boolean;
  /** Whose notes go, too; null for nobody's. */
  notesOf: string | null;
}

/**
 * The fields that hold personal values: those marked so in any of these definitions, what is kept inside them, and
 * whatever is worked out from any of them, through any number of fields; with any, also those that keep what was drawn up,
 * because a document tells of the request as a whole.
 */
export function personalFields(
  release: CompiledRelease,
  ...also: readonly (readonly Field[])[]
): ReadonlySet<string> {
  const out = new Set<string>();
  for (const fields of [release.definition.fields, ...also])
    walkFields(fields, (f, parents) => {
      if (f.personal || parents.some((p) => p.personal)) out.add(f.id);
    });
  if (out.size > 0)
    for (const { step } of release.places.values()) {
      const kind = stepKind(release.kinds, step);
      if (kind.documents || kind.asks?.signs?.(step)) for (const id of kind.sets(step)) out.add(id);
    }
  const { reads } = release.prepared;
  for (let before = -1; before !== out.size;) {
    before = out.size;
    for (const [id, places] of Object.entries(reads)) if (places.worked?.some((r) => out.has(r))) out.add(id);
  }
  return out;
}

type Fields = Pick<ReadonlySet<string>, "has" | "size">;
const NO_FIELDS: Fields = new Set();
const ALL: Fields = { has: () => true, size: Infinity };

/** Values with those of some fields and columns made empty; rows stay, so that what counts them still fits. */
export const forgetValues = (data: FormData, fields: Fields): FormData =>
  Object.fromEntries(
    Object.entries(data).map(([id, v]) => {
      if (Array.isArray(v))
        return [
          id,
          v.map((row) => ({
            ...Object.fromEntries(
              Object.entries(row).map(([c, x]) => [c, fields.has(c) || fields.has(id) ? null : x]),
            ),
            "#": row["#"],
          })),
        ];
      return [id, fields.has(id) ? null : v];
    }),
  ) as FormData;

const GONE = "…";

/** Clauses of "why", wherever they stand, lose their values where they read something that is forgotten. */
function forgetWhy<T>(value: T, gone: (read: string) => boolean): T {
  if (Array.isArray(value)) return value.map((v) => forgetWhy<unknown>(v, gone)) as T;
  if (typeof value !== "object" || value === null) return value;
  const o = value as Record<string, unknown>;
  const { reads } = o;
  if (typeof o["values"] === "string" && Array.isArray(reads))
    return (reads as string[]).some((r) => gone(r) || r === "*.*")
      ? ({ ...o, values: GONE, result: GONE } as T)
      : value;
  return Object.fromEntries(Object.entries(o).map(([k, v]) => [k, forgetWhy(v, gone)])) as T;
}

/** What stays of a reason: the step and the formula; all else may have been put in by a value. */
const KEPT_OF_REASON = new Set(["step", "formula", "rule", "limit", "to"]);
const forgetReason = (r: StuckReason): StuckReason =>
  ({
    code: r.code,
    data: Object.fromEntries(
      Object.entries(r.data).map(([k, v]) => [k, KEPT_OF_REASON.has(k) || typeof v !== "string" ? v : GONE]),
    ),
  }) as StuckReason;

function forgetWork(e: Effect, kinds: Kinds): Effect {
  const { id, step, ...work } = e;
  const forget = kinds.steps[e.kind].forget;
  if (!forget) throw new Error(`a "${e.kind}" asks for something and does not say how it is forgotten`);
  return { ...forget.work(work as StepWork), id, step } as Effect;
}

/**
 * The events of an ended request without the values to be forgotten; folded, they give its state without them.
 * @param gone which fields, and whose notes
 */
export function forgetEvents(
  events: readonly RequestEvent[],
  release: CompiledRelease,
  gone: Forgetting,
): RequestEvent[] {
  const reads = hiddenReads(release.definition.fields, (id) => (gone.fields.has(id) ? "hide" : "see"));
  // Notes are told on: what was sent with one goes with it.
  const asked = gone.asker && events.some(namesOutside);
  const values = asked || gone.fields.size > 0 || (gone.inCalls && events.some((e) => e.type === "in call"));
  const any = values || events.some((e) => hasNoteOf(e, gone.notesOf));
  return forgotten(events, release.kinds, { ...gone, any }, reads);
}

/** Whether somebody outside is still known by it: who asked, or whom it asks. */
function namesOutside(e: RequestEvent): boolean {
  if (e.type === "in call") return namesOutside(e.event);
  if (e.type === "outsider named") return e.name !== GONE || e.email !== "";
  return "requester" in e && e.requester !== partyForgotten(e.requester);
}

function hasNoteOf(e: RequestEvent, person: string | null): boolean {
  if (e.type === "in call") return hasNoteOf(e.event, person);
  return "note" in e && e.note !== "" && e.by === person;
}

function forgotten(
  events: readonly RequestEvent[],
  kinds: Kinds,
  gone: { fields: Fields; inCalls: boolean; asker: boolean; notesOf: string | null; any: boolean },
  reads: (read: string) => boolean,
): RequestEvent[] {
  const { any } = gone;
  const noted = <E extends RequestEvent & { note: string }>(e: E): E =>
    gone.notesOf !== null && e.by === gone.notesOf && e.note !== "" ? { ...e, note: GONE } : e;
  const one = (e: RequestEvent): RequestEvent => {
    switch (e.type) {
      case "request started":
        return {
          ...e,
          requester: gone.asker ? partyForgotten(e.requester) : e.requester,
          data: forgetValues(e.data, gone.fields),
        };
      case "data changed":
      case "values set":
        return { ...e, data: forgetValues(e.data, gone.fields) };
      case "signed": {
        // A fingerprint of little can be tried out: it goes with what it is of.
        const some = [e.field, ...e.fields].some((id) => gone.fields.has(id));
        if (!some) return e;
        return { ...e, hash: "", value: gone.fields.has(e.field) ? "" : e.value };
      }
      case "check passed":
        // Why it was passed is likely to tell of what it reads.
        return e.fields.some((id) => gone.fields.has(id)) && e.note !== "" ? { ...e, note: GONE } : noted(e);
      case "effect asked":
        return any ? { ...e, effect: forgetWork(e.effect, kinds) } : e;
      case "effect done": {
        const forget = kinds.steps[e.kind].forget;
        return any && forget ? ({ ...e, result: forget.result(e.result) } as RequestEvent) : e;
      }
      case "effect failed":
      case "got stuck":
        return any ? { ...e, reason: forgetReason(e.reason) } : e;
      case "rung fired":
        return any && e.unclear ? { ...e, unclear: forgetReason(e.unclear) } : e;
      case "step did":
        return forgetWhy(e, reads);
      case "span opened": {
        const told = forgetWhy(e, reads);
        return any && told.unclear ? { ...told, unclear: forgetReason(told.unclear) } : told;
      }
      case "visit opened": {
        const { offers, letter } = e.visit;
        const why = forgetWhy(e, reads);
        const told =
          any && letter ? { ...why, visit: { ...why.visit, letter: { subject: GONE, text: "" } } } : why;
        if (!offers) return told;
        const left = Object.entries(offers).map(([f, v]) => [f, gone.fields.has(f) ? [] : v] as const);
        return { ...told, visit: { ...told.visit, offers: Object.fromEntries(left) } };
      }
      case "not delivered":
        return any && e.to !== GONE ? { ...e, to: GONE, why: "" } : e;
      case "answer given":
      case "answer proposed":
      case "task handed over":
      case "step decided":
      case "returned for changes":
      case "request withdrawn":
      case "request cancelled":
      case "way chosen":
      case "reminded":
      case "limit changed":
        return noted(e);
      case "question asked": {
        const { note } = noted(e);
        return { ...e, note, ...(any && e.task.about ? { task: { ...e.task, about: GONE } } : {}) };
      }
      case "got unstuck":
        return "note" in e && e.note !== undefined ? noted({ ...e, note: e.note }) : e;
      case "records kept":
        return any && "value" in e.records ? { ...e, records: { value: forgetStored(e.records.value) } } : e;
      case "run opened":
        return any && typeof e.run.items !== "number"
          ? { ...e, run: { ...e.run, items: e.run.items.map(forgetStored) } }
          : e;
      case "round opened":
        return any && e.name !== "" ? { ...e, name: GONE } : e;
      case "round ended":
        return any && e.left !== undefined ? { ...e, left: forgetStored(e.left) } : e;
      case "outsider named":
        return gone.asker ? { ...e, name: GONE, email: "" } : e;
      case "task opened":
      case "decider added":
        return any && e.task.about ? { ...e, task: { ...e.task, about: GONE } } : e;
      case "in call": {
        const inner = { ...gone, fields: gone.inCalls ? ALL : NO_FIELDS };
        return { ...e, event: forgotten([e.event], kinds, inner, () => gone.inCalls)[0]! };
      }
      case "next asked":
      case "question ended":
      case "limit stopped":
      case "limit goes on":
      case "call opened":
      case "call ended":
      case "call called off":
      case "fell asleep":
      case "woke":
      case "looked":
      case "round left out":
      case "run closing":
      case "run parked":
      case "run went on":
      case "run ended":
      case "token called off":
      case "token placed":
      case "token moved":
      case "branch ended":
      case "branch let go":
      case "errand placed":
      case "errand kept":
      case "list sent out":
      case "task taken":
      case "task put back":
      case "task closed":
      case "visit given up":
      case "changes sent":
      case "span closed":
      case "timer set":
      case "timer cleared":
      case "request finished":
      case "values blanked":
      case "files removed":
        return e;
    }
  };
  return events.map(one);
}

import type { WrittenLetter } from "@/core/letter";
import {
  dueOf,
  heldBy,
  isForParts,
  isOfStep,
  isOpen,
  partsChanged,
  type News,
  type Projections,
  type RequestEvent,
  type RequestState,
} from "@/core/engine";
import { accountOf, isAccount } from "@/core/form";
import type { Receiver } from "@/core/kinds";
import { EVENT, storedPart, storedState } from "@/formats";
import { jobSpecs, type Job } from "../jobs";
import { at, type Db } from "../pool";
import type { Cause } from "../recordStarts";
import { BEYOND, BEYOND_JOBS, DROPPED, MENTIONED, PUT, WATCHED, WRITTEN } from "./savePieces";
import { tickOf } from "./tick";

export interface NewRequest {
  number: string;
  process: string;
  release: string;
  startKey: string | null;
  /** What was sent with the key. */
  startHash: Buffer | null;
  /** By what it was started, oldest first. */
  chain: readonly Cause[];
}

/** A mail, or a message in the chat room, to be kept and sent. */
export interface NewMail {
  channel: "mail" | "chat";
  /** Of a message in a room: which. */
  room: string | null;
  effect: string;
  /** Which of the effect's mails. */
  part: number;
  /** Null for what Cobble Step writes by itself. */
  step: string | null;
  scope: string | null;
  /** Empty where the process has none. */
  mailbox: string;
  receivers: readonly Receiver[];
  copies: readonly Receiver[];
  blind: readonly Receiver[];
  replyTo: Receiver | null;
  subject: string;
  text: string;
  /** Where it is one of the process's letters: its parts, of which the text is made. */
  letter: WrittenLetter | null;
  files: readonly string[];
  again: boolean;
  hidden: boolean;
  /** Whom it asks to answer which task, after which event. */
  asks?: { task: string; person: string; seq: number };
  /** Of a past that is made up: nobody sends it any more. */
  sent: boolean;
}

/** What a command changed, ready to be written by one statement. */
export interface RequestChange {
  id: string | null;
  /** The version the command was decided on; another one in the row means that somebody was faster. */
  from: number;
  fresh: NewRequest | null;
  title: string;
  /** The stage it stands in, as whoever asked reads it; null before the first. */
  stage: string | null;
  /** What it was decided on, where that is kept in parts; null where it is kept as a whole, or new. */
  before: RequestState | null;
  state: RequestState;
  events: RequestEvent[];
  changes: Projections;
  stepNames: Readonly<Record<string, string>>;
  /** Ids of steps whose tasks may be answered several at once. */
  atOnce: ReadonlySet<string>;
  /** What workers are to do. Absent when the caller sees to that. */
  jobs: readonly Job[] | null;
  /** What people are to be told of it; to nobody by name means the owners of the process. */
  news: readonly News[];
  /** Notices the process itself asked for, by the effect that did. */
  told: readonly {
    effect: string;
    people: readonly string[];
    subject: string;
    text: string;
    notes: readonly { register: string; id: string; text: string }[];
    /** Its readers get it by the ways they have chosen, too. */
    own: boolean;
    /** It is one with others of its minute that remind the same person. */
    reminds: boolean;
  }[];
  /** Whether somebody has news by other ways than the screen. */
  beyond: boolean;
  mails: readonly NewMail[];
  /** The task whose draft goes with its answer. */
  answered: string | null;
  /** How whoever gave the command acted: by which session or key. */
  via: string | null;
}

/**
 * Writes state, events, tasks, timers and jobs of one command in one statement: a round trip each would
 * cost more than the work itself. Writes nothing where the row's version is not the one decided on (a lock
 * taken inside this statement would come too late: its snapshot would be older).
 * @returns the request's id, or null when nothing was written
 */
export async function saveRequest(db: Db, c: RequestChange): Promise<string | null> {
  const s = c.state;
  const parts = c.before || isForParts(s) ? partsChanged(c.before, s) : null;
  // Of a request in parts only some may have been read, and others may stand at an earlier stage.
  const stage = parts ? null : c.stage;
  const events = c.events.map(({ seq, type, at: when, by, ...body }) => ({
    seq,
    type,
    at: at(when),
    by_person: by,
    via: by === null ? null : c.via,
    body,
  }));
  const tasks = c.changes.tasks.map((t) => ({
    id: t.id,
    step_id: t.step,
    step_name: c.stepNames[t.step] ?? t.step,
    purpose: t.purpose,
    holder_id: t.holder,
    status: t.status,
    opened_at: at(t.openedAt),
    due_at: at(t.due),
    ended_at: at(t.endedAt ?? null),
    answer: t.answer ?? null,
    about: t.about ?? "",
    at_once: isOfStep(t) && c.atOnce.has(t.step),
  }));
  const candidates = c.changes.tasks.flatMap((t) =>
    t.candidates.map((p) => ({
      task_id: t.id,
      person_id: p.person,
      for_person: p.for ?? null,
      due_at: at(t.due),
      opened_at: at(t.openedAt),
      // A task somebody has taken leaves the desks of the others.
      open: isOpen(t) && (t.holder === null || t.holder === p.person),
    })),
  );
  const lastAt = c.events.at(-1)?.at ?? s.startedAt;
  const touched = c.changes.tasks.map((t) => t.id);
  const watches = c.changes.watches.length > 0;
  const mails = c.mails.length > 0;
  const mentions = c.news.filter((n) => n.kind === "mentioned");
  const timers = c.changes.setTimers.map((t) => ({ id: t.id, due_at: at(t.at) }));
  const row =
    c.id === null
      ? `
        insert into
          request (
            number,
            process_key,
            release_id,
            start_key,
            requester_id,
            title,
            status,
            result,
            result_tone,
            state,
            version,
            started_at,
            ended_at,
            start_hash,
            due_at,
            party,
            chain,
            stage,
            in_parts
          )
        values (
          $10, $11, $12, $13, $14, $15, $2, $3, $4, $5, $6, $16, $7, $17, $18, $19, $20, $21, ${parts !== null}
        )
        returning id, process_key
      `
      : `
        update request
        set
          status = $2,
          result = $3,
          result_tone = $4,
          state = $5,
          version = $6,
          ended_at = $7,
          title = $10,
          stage = $13,
          ${
            parts
              ? `
          in_parts = true,
          due_at = least(
            $12::timestamptz,
            (
              select min(p.due_at)
              from request_part p
              where p.request_id = $1::bigint and not p.id = any($14::text[])
            )
          )`
              : "due_at = $12"
          }
        where id = $1::bigint and version = $11
        returning id, process_key
      `;
  const head = [
    c.id,
    s.status,
    s.result?.name ?? null,
    s.result?.tone ?? null,
    JSON.stringify(storedState(parts?.root ?? s)),
    s.seq,
    at(s.endedAt),
    JSON.stringify(events),
    JSON.stringify({
      tasks,
      candidates,
      touched,
      timers,
      cleared: c.changes.clearTimers,
      ...(watches ? { watches: c.changes.watches } : {}),
      ...(mentions.length > 0 ? { mentions: mentions.map((n) => ({ person: n.to, at: at(lastAt) })) } : {}),
      ...(mails ? { mails: c.mails.map(({ asks, ...m }) => ({ ...m, ...asks, at: at(lastAt) })) } : {}),
      answered: c.answered,
      news: c.news.map((n) => ({ ...n, person: n.to, at: at(lastAt) })),
      told: c.told.flatMap(({ people, effect, subject, text, own, reminds }) =>
        people.map((person) => ({ effect, subject, text, person, own, reminds, at: at(lastAt) })),
      ),
      notes: c.told.flatMap(({ effect, notes }) =>
        notes.map((n) => ({ ...n, effect, number: c.state.number, at: at(lastAt) })),
      ),
      ...(parts && {
        parts: parts.written.map((p) => ({
          id: p.id,
          parent: p.parent,
          holds: heldBy(p),
          due_at: at(dueOf(p)),
          beside: p.beside,
          past: p.past,
          body: storedPart(p),
        })),
      }),
      by: events.find((e) => e.by_person !== null)?.by_person ?? null,
      jobs: c.jobs ? jobSpecs(c.jobs) : [],
      tick: tickOf(c),
    }),
  ];
  const tail =
    c.fresh && c.id === null
      ? [
          c.fresh.number,
          c.fresh.process,
          c.fresh.release,
          c.fresh.startKey,
          accountOf(s.requester),
          c.title,
          at(s.startedAt),
          c.fresh.startHash,
          at(dueOf(s)),
          isAccount(s.requester) ? null : JSON.stringify(s.requester),
          JSON.stringify(c.fresh.chain),
          stage,
        ]
      : [
          c.title,
          c.from,
          at(dueOf(s)),
          stage,
          // Of parts that were not read the limits that are kept count.
          ...(parts ? [Object.keys({ ...c.before?.scopes, ...s.scopes }), parts.gone] : []),
        ];
  const { rows } = await db.query({
    name: `save-${c.id === null ? "new-" : ""}request${parts ? "-in-parts" : ""}${watches ? "-watching" : ""}${mails ? "-writing" : ""}${mentions.length > 0 ? "-mentioning" : ""}${c.beyond ? "-beyond" : ""}`,
    text: `
      with
        r as (${row}),
        x as (select $9::jsonb as j${c.id === null ? ", $1::text as unused" : ""}),
        ${parts && c.id !== null ? DROPPED : ""}
        ${parts ? PUT : ""}
        ${watches ? WATCHED : ""}
        ${mails ? WRITTEN : ""}
        ${mentions.length > 0 ? MENTIONED : ""}
        ev as (
          insert into request_event (request_id, seq, type, at, by_person, via, body, format)
          select r.id, e.seq, e.type, e.at, e.by_person, e.via, e.body, ${EVENT.newest}
          from
            r,
            jsonb_to_recordset($8::jsonb) as e (
              seq int,
              type text,
              at timestamptz,
              by_person text,
              via text,
              body jsonb
            )
        ),
        tk as (
          insert into
            task (
              request_id,
              id,
              step_id,
              step_name,
              purpose,
              holder_id,
              status,
              opened_at,
              due_at,
              ended_at,
              answer,
              about,
              at_once
            )
          select r.id, t.*
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'tasks') as t (
              id text,
              step_id text,
              step_name text,
              purpose text,
              holder_id text,
              status text,
              opened_at timestamptz,
              due_at timestamptz,
              ended_at timestamptz,
              answer text,
              about text,
              at_once boolean
            )
          on conflict (request_id, id) do update
          set
            holder_id = excluded.holder_id,
            status = excluded.status,
            ended_at = excluded.ended_at,
            answer = excluded.answer,
            due_at = excluded.due_at
          returning request_id
        ),
        gone as (
          delete from task_candidate c using r,
          x
          where
            c.request_id = r.id
            and c.task_id in (select jsonb_array_elements_text(x.j -> 'touched'))
            and not exists (
              select 1
              from jsonb_to_recordset(x.j -> 'candidates') as n (task_id text, person_id text)
              where n.task_id = c.task_id and n.person_id = c.person_id
            )
        ),
        cd as (
          insert into
            task_candidate (request_id, task_id, person_id, for_person, due_at, opened_at, open)
          select r.id, c.*
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'candidates') as c (
              task_id text,
              person_id text,
              for_person text,
              due_at timestamptz,
              opened_at timestamptz,
              open boolean
            )
          on conflict (request_id, task_id, person_id) do update
          set open = excluded.open, for_person = excluded.for_person, due_at = excluded.due_at
        ),
        st as (
          insert into timer (request_id, id, due_at)
          select r.id, t.*
          from r, x, jsonb_to_recordset(x.j -> 'timers') as t (id text, due_at timestamptz)
        ),
        ct as (
          delete from timer t using r,
          x
          where
            t.request_id = r.id
            and t.id in (select jsonb_array_elements_text(x.j -> 'cleared'))
        ),
        nw as (
          insert into
            notice (
              person_id,
              request_id,
              effect_key,
              subject,
              body,
              created_at,
              kind,
              task_id,
              facts
            )
          select
            p.person_id,
            r.id,
            'news:' || r.id || ':' || n.seq || coalesce(':' || n.task, ''),
            '',
            '',
            n.at,
            n.kind,
            n.task,
            n.facts
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'news') as n (
              kind text,
              person text,
              task text,
              seq int,
              at timestamptz,
              facts jsonb
            )
            cross join lateral (
              select n.person as person_id
              where n.person is not null
              union all
              select o.person_id
              from process_owner o
              where
                n.person is null
                and o.process_key = r.process_key
                and o.person_id is distinct from x.j ->> 'by'
            ) p
          where
            not exists (
              select 1
              from news_off f
              where f.person_id = p.person_id and f.kind = n.kind
            )
          on conflict do nothing
          returning id, person_id, kind
        ),
        td as (
          insert into notice (person_id, request_id, effect_key, subject, body, created_at, reminds_at)
          select
            t.person,
            r.id,
            r.id || ':' || t.effect,
            t.subject,
            t.text,
            t.at,
            case when t.reminds then floor(extract(epoch from t.at) / 60) end
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'told') as t (
              person text,
              effect text,
              subject text,
              text text,
              at timestamptz,
              reminds boolean
            )
          on conflict do nothing
          returning id, person_id, effect_key
        ),
        ${c.beyond ? BEYOND : ""}
        tn as (
          insert into record_note (register_key, record_id, request_number, effect_key, body, at)
          select t.register, t.id, t.number, r.id || ':' || t.effect || ':' || t.register || '/' || t.id, t.text, t.at
          from
            r,
            x,
            jsonb_to_recordset(x.j -> 'notes') as t (
              register text,
              id bigint,
              number text,
              effect text,
              text text,
              at timestamptz
            )
          where t.text <> ''
          on conflict do nothing
        ),
        dr as (
          delete from form_draft f using r,
          x
          where f.request_id = r.id and f.task_id = x.j ->> 'answered'
        )
      select
        r.id,
        pg_notify ('changed', x.j ->> 'tick'),
        case
          when x.j -> 'jobs' <> '[]' then (
            select count(*)
            from
              graphile_worker.add_jobs (
                array(
                  select
                    json_populate_record(
                      null::graphile_worker.job_spec,
                      (
                        s || jsonb_build_object('payload', s -> 'payload' || jsonb_build_object('request', r.id::text))
                      )::json
                    )
                  from jsonb_array_elements(x.j -> 'jobs') s
                )
              )
          )
        end as added
        ${c.beyond ? BEYOND_JOBS : ""}
      from r, x
    `,
    values: [...head, ...tail],
  });
  return rows[0]?.id ?? null;
}

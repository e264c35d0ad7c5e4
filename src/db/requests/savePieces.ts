// Parts of the statement that saves a request which few commands need.

/** Drops parts of rounds that have ended. */
export const DROPPED = `
  dropped as (
    delete from request_part p using r
    where p.request_id = r.id and p.id = any($15::text[])
  ),
`;
/** Keeps by which records requests that sleep are told that what they wait for has come. */
export const WATCHED = `
  watched as (
    select w.sleep as sleep_id, r.register as register_key, r.id as record_id
    from
      x,
      jsonb_to_recordset(x.j -> 'watches') as w (sleep text, records jsonb)
      cross join lateral jsonb_to_recordset(w.records) as r (register text, id text)
  ),
  unwatched as (
    delete from request_watch q using r, x
    where
      q.request_id = r.id
      and q.sleep_id in (select w ->> 'sleep' from jsonb_array_elements(x.j -> 'watches') w)
      and not exists (
        select 1
        from watched n
        where n.sleep_id = q.sleep_id and n.register_key = q.register_key and n.record_id = q.record_id
      )
  ),
  watching as (
    insert into request_watch (request_id, sleep_id, register_key, record_id)
    select r.id, n.*
    from r, watched n
    on conflict do nothing
  ),
`;
/** Puts mails into the book of what is to be sent. */
export const WRITTEN = `
  written as (
    insert into
      message (
        request_id,
        direction,
        mailbox,
        effect,
        part,
        step_id,
        scope,
        task_id,
        person_id,
        seq,
        state,
        again,
        hidden,
        receivers,
        copies,
        blind,
        reply_to,
        subject,
        body,
        letter,
        files,
        at,
        channel,
        room
      )
    select
      r.id,
      'out',
      m.mailbox,
      m.effect,
      m.part,
      m.step,
      m.scope,
      m.task,
      m.person,
      m.seq,
      case when m.sent then 'sent' else 'waiting' end,
      m.again,
      m.hidden,
      m.receivers,
      m.copies,
      m.blind,
      m."replyTo",
      m.subject,
      m.text,
      -- Json that is null is no null.
      nullif(m.letter, 'null'),
      array(select jsonb_array_elements_text(m.files)),
      m.at,
      m.channel,
      m.room
    from
      r,
      x,
      jsonb_to_recordset(x.j -> 'mails') as m (
        effect text,
        part int,
        step text,
        scope text,
        task text,
        person text,
        seq int,
        mailbox text,
        receivers jsonb,
        copies jsonb,
        blind jsonb,
        "replyTo" jsonb,
        subject text,
        text text,
        letter jsonb,
        files jsonb,
        again boolean,
        hidden boolean,
        sent boolean,
        at timestamptz,
        channel text,
        room text
      )
    on conflict do nothing
  ),
`;
/** Writes parts that changed. */
export const PUT = `
  put as (
    insert into request_part (request_id, id, parent, holds, due_at, beside, past, body)
    select r.id, p.*
    from
      r,
      x,
      jsonb_to_recordset(x.j -> 'parts') as p (
        id text,
        parent text,
        holds text[],
        due_at timestamptz,
        beside boolean,
        past boolean,
        body json
      )
    on conflict (request_id, id) do update
    set holds = excluded.holds, due_at = excluded.due_at, body = excluded.body
  ),
`;

/** News that goes by other ways than the screen as well, for whoever has chosen that. */
export const BEYOND = `
  beyond as (
    insert into news_sent (notice_id, way, state)
    select n.id, w.way, 'waiting'
    from
      (
        select nw.id, nw.person_id, nw.kind
        from nw
        union all
        select td.id, td.person_id, 'told'
        from
          r,
          x,
          td,
          jsonb_to_recordset(x.j -> 'told') as t (person text, effect text, own boolean)
        where t.own and t.person = td.person_id and td.effect_key = r.id || ':' || t.effect
      ) n
      join news_way w on w.person_id = n.person_id and w.kind = n.kind
    returning notice_id, way
  ),
`;
/** Their jobs, to stand in what the statement gives back. */
export const BEYOND_JOBS = `,
  (
    select count(z.job)
    from
      (
        select
          graphile_worker.add_job (
            'send_news',
            json_build_object('notice', b.notice_id::text, 'way', b.way),
            max_attempts := 25
          ) as job
        from beyond b
      ) z
  ) as beyond
`;

/** Whoever was mentioned may look at it from now on. */
export const MENTIONED = `
  mn as (
    insert into request_mention (request_id, person_id, by_person, at)
    select r.id, m.person, x.j ->> 'by', m.at
    from r, x, jsonb_to_recordset(x.j -> 'mentions') as m (person text, at timestamptz)
    on conflict do nothing
  ),
`;

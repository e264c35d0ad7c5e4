import { spawn } from "node:child_process";
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { simpleParser } from "mailparser";
import type { ProcessDefinition } from "@/core/route";
import { chat, closePool, getPool, mailboxes } from "@/db";
import {
  actorOf,
  createProcess,
  releaseDraft,
  replayRequests,
  sealChatToken,
  sealMailPassword,
  sealSigningKey,
  startRequest,
  SYSTEM,
} from "@/services";
import { Random } from "../../demo/random";
import { startChat } from "../../stand-ins/chat/chat";
import { startPost } from "../../stand-ins/post/post";
import { ensureBuild } from "../lib/build.mjs";
import { ensureDatabase, freePort, removeCluster, startCluster } from "../lib/cluster.mjs";
import { KeptRunning } from "./keptRunning";

/**
 * Kills one of two workers, now and then the database, while mail goes out and comes in by a server that is slow, refuses
 * and loses connections, and messages go to a chat room that does: then holds what was sent and taken against what is
 * kept. `npm run kills:mail -- 100 1000 500 1` for so many kills, mails out, mails in, by a seed.
 */
const [KILLS, OUT, IN, SEED] = [100, 1000, 500, 1].map((n, i) => Number(process.argv[2 + i] ?? n)) as [
  number,
  number,
  number,
  number,
];
const BOX = "kills@quillhaven.example";
const FAULTS = { slow: 20, refuse: 0.08, loseBefore: 0.05, loseAfter: 0.05 };
const root = process.cwd();
const folder = join(root, ".local/mail-kills");
const random = new Random(SEED);
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms));
const say = (line: string) => process.stdout.write(`${new Date().toISOString().slice(11, 19)}  ${line}\n`);
const must = <T>(o: { ok: true; value: T } | { ok: false; failure: unknown }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o.failure));
  return o.value;
};

const definition = (key: string, prefix: string, again: boolean, starts: object[]): ProcessDefinition =>
  ({
    format: "cobble-step/process@2",
    key,
    name: key,
    purpose: "",
    owners: ["tobias.marrin"],
    numbering: { prefix, digits: 6 },
    title: "{Which}",
    mailbox: BOX,
    starts,
    access: {},
    samples: [],
    fields: [
      { id: "which", name: "Which", kind: "text" },
      { id: "paper", name: "Paper", kind: "file" },
    ],
    route: [
      {
        id: "write",
        name: "Write",
        kind: "tell",
        who: { by: "formula", formula: 'Which + "@out.example"' },
        subject: "{Request.number}",
        text: "About {Which}.",
        mail: again ? { again: true } : {},
        ways: [],
      },
      {
        id: "ask",
        name: "Ask",
        kind: "decide",
        who: { rule: { by: "person", person: "anselm.kerr" }, how: "one" },
        byMail: { by: "chat", subject: "{Request.number}", text: "{Which}" },
        answers: [{ id: "ok", label: "Seen", tone: "agree", steps: [] }],
      },
    ],
  }) as unknown as ProcessDefinition;
const FORM = [{ id: "form", kind: "form", who: { by: "everybody" } }];
const MAIL = [
  {
    id: "mail",
    kind: "mail",
    strangers: "take",
    values: [
      { field: "which", value: "Mail.subject" },
      { field: "paper", value: "Mail.attachments[1]" },
    ],
  },
];

/** Whatever is asked of a database that is away is asked again. */
async function insisting<T>(work: () => Promise<T>): Promise<T> {
  for (let i = 0; ; i++) {
    try {
      return await work();
    } catch (e) {
      if (i > 600) throw e;
      await sleep(100);
    }
  }
}
const rows = async <T>(text: string, values: unknown[] = []): Promise<T[]> =>
  insisting(async () => (await getPool().query(text, values)).rows as T[]);

async function main() {
  removeCluster(folder);
  await ensureBuild(root);
  const port = await freePort(54560);
  let cluster = await startCluster(folder, { port });
  await ensureDatabase(cluster, "kills");
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    DATABASE_URL: cluster.url("kills"),
    NODE_ENV: "production",
    COBBLE_DEMO: "1",
    COBBLE_REQUESTS: "0",
    COBBLE_OBJECTS: "50",
    PORT: String(await freePort(3650)),
  };
  await new Promise((done) =>
    spawn(process.execPath, ["dist/demo/main.cjs"], { env, stdio: "ignore" }).on("exit", done),
  );
  process.env["DATABASE_URL"] = env["DATABASE_URL"];
  process.env["COBBLE_DEMO"] = "1";
  const db = getPool();
  // Without it a connection that the database's end takes along would end this program.
  db.on("error", () => undefined);
  const places = mkdtempSync(join(tmpdir(), "mail-kills-"));
  chmodSync(places, 0o755);
  const smtpPort = await freePort(3665);
  const imapPort = await freePort(smtpPort + 1);
  const post = await startPost({ folder: join(places, "post"), smtpPort, imapPort, pagePort: null });
  const room = await startChat({
    folder: join(places, "chat"),
    port: 0,
    accounts: ["anselm.kerr"],
    rooms: [],
    token: "t",
    signingKey: "0123456789abcdef",
    tells: "http://127.0.0.1:9/",
  });
  await db.query("delete from mailbox");
  await mailboxes.putMailbox(db, {
    address: BOX,
    name: "Kills",
    smtp_host: "127.0.0.1",
    smtp_port: smtpPort,
    imap_host: "127.0.0.1",
    imap_port: imapPort,
    security: "none",
    user_name: BOX,
    password: sealMailPassword("quillhaven"),
    checks_by: "",
    news: false,
  });
  await chat.putChatRoom(db, {
    name: "Kills",
    address: `http://127.0.0.1:${room.port}`,
    token: sealChatToken("t"),
    signing_key: sealSigningKey("0123456789abcdef"),
  });
  for (const d of [
    definition("once", "ONCE", false, FORM),
    definition("again", "AGAIN", true, FORM),
    definition("came", "CAME", true, MAIL),
  ]) {
    must(await createProcess(SYSTEM, d));
    must(await releaseDraft(SYSTEM, d.key, "1.0.0", ""));
  }
  const asker = (await actorOf(db, "piet.hanlon"))!;
  post.setFaults(FAULTS);
  room.setFaults({ slow: 10, refuse: 0.1, loseAfter: 0.1 });
  const workers = [1, 2].map(() => new KeptRunning("dist/src/worker/main.cjs", env));

  // What lay in a mailbox before it was first looked into is nobody's to take.
  while ((await rows("select 1 from mailbox_read where looked_at is not null")).length === 0)
    await sleep(100);

  const coming = (async () => {
    for (let i = 0; i < IN; i++) {
      const raw = Buffer.from(
        `From: a${i % 30}@in.example\r\nTo: ${BOX}\r\nSubject: in${i}\r\nMessage-ID: <i${i}@in.example>\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nNumber ${i}.\r\n--b\r\nContent-Type: application/pdf; name="p.pdf"\r\nContent-Disposition: attachment; filename="p.pdf"\r\n\r\n%PDF ${i}\r\n--b--\r\n`,
      );
      post.folders.deliver(BOX, raw);
      // A server that lost its own word of it delivers it once more.
      if (random.int(1, 20) === 1) post.folders.deliver(BOX, raw);
      await sleep(random.int(20, (KILLS * 1500) / IN));
    }
  })();
  const going = (async () => {
    for (let i = 0; i < OUT; i++) {
      const process = i % 2 === 0 ? "once" : "again";
      await insisting(async () => {
        const r = await startRequest(asker, process, { which: `out${i}` }, `k${i}`);
        // What could not be done just now is asked for once more, by the same key.
        if (!r.ok) throw new Error(JSON.stringify(r.failure));
      });
      await sleep(random.int(10, Math.max(20, (KILLS * 1200) / OUT)));
    }
  })();
  const counts = { worker: 0, database: 0 };
  const began = Date.now();
  for (let i = 0; i < KILLS; i++) {
    await sleep(random.int(500, 2200));
    if (random.int(1, 12) === 1) {
      counts.database++;
      // As when the power goes: no checkpoint, no good-byes.
      const pid = Number(readFileSync(join(folder, "data/postmaster.pid"), "utf8").split("\n")[0]);
      process.kill(pid, "SIGQUIT");
      while (existsSync(`/proc/${pid}`)) await sleep(20);
      cluster = await startCluster(folder, { port });
    } else {
      counts.worker++;
      workers[random.int(0, 1)]!.kill();
    }
    if (i % 20 === 19) say(`${i + 1} kills`);
  }
  await Promise.all([coming, going]);
  const seconds = (Date.now() - began) / 1000;
  // The rest goes by a server that works, without the hours between tries.
  post.setFaults({ slow: 0, refuse: 0, loseBefore: 0, loseAfter: 0 });
  room.setFaults({ slow: 0, refuse: 0, loseAfter: 0 });
  const left = () =>
    rows<{ n: number }>(
      `
        select
          (select count(*) from message where direction = 'out' and state in ('waiting', 'sending', 'given'))
          + (select count(*) from message where direction = 'in' and request_id is null)
          + (select greatest(0, $1 - count(*)) from message where direction = 'in')
          + (select count(*) from graphile_worker.jobs where locked_at is null and attempts < max_attempts and task_identifier not in ('look')) as n
      `,
      [IN],
    ).then((r) => Number(r[0]!.n));
  for (let i = 0; i < 600 && (await left()) > 0; i++) {
    await rows(
      "update graphile_worker._private_jobs set run_at = now() where run_at > now() and locked_at is null",
    );
    // Whatever a killed worker held is free again after some hours; that is the queue's, and not what is tried here.
    await rows(
      "update graphile_worker._private_jobs set locked_at = null, locked_by = null where locked_at < now() - interval '20 seconds'",
    );
    await sleep(500);
  }
  workers.forEach((w) => w.stop());
  await sleep(500);
  const wrong = await check(post, room);
  const states = await rows<{ channel: string; state: string; n: number }>(
    "select channel, state, count(*)::int as n from message where direction = 'out' group by 1, 2 order by 1, 2",
  );
  say(
    `${KILLS} kills in ${seconds.toFixed(0)} s (${counts.worker} worker, ${counts.database} database): ${states.map((s) => `${s.channel} ${s.state} ${s.n}`).join(", ")}; ${IN} came`,
  );
  await closePool();
  await post.stop();
  await room.stop();
  await cluster.stop();
  removeCluster(folder);
  rmSync(places, { recursive: true, force: true });
  say(
    wrong.length === 0 ? "Nothing lost, nothing doubled that could be known." : wrong.slice(0, 30).join("\n"),
  );
  process.exit(wrong.length === 0 ? 0 : 1);
}

async function check(
  post: Awaited<ReturnType<typeof startPost>>,
  room: Awaited<ReturnType<typeof startChat>>,
): Promise<string[]> {
  const wrong: string[] = [];
  const requests = await rows<{ number: string; process_key: string; title: string; id: string }>(
    "select number, process_key, title, id::text as id from request where process_key in ('once', 'again', 'came')",
  );
  const of = (key: string) => requests.filter((r) => r.process_key === key);
  if (of("once").length + of("again").length !== OUT)
    wrong.push(`${of("once").length + of("again").length} requests instead of ${OUT}`);
  const titles = new Set(of("came").map((r) => r.title));
  if (of("came").length !== IN || titles.size !== IN)
    wrong.push(`${of("came").length} requests of ${titles.size} mails instead of ${IN}`);
  const [papers] = await rows<{ n: number }>(
    "select count(*)::int as n from request r join file f on f.request_id = r.id where r.process_key = 'came'",
  );
  if (papers!.n !== IN) wrong.push(`${papers!.n} files instead of ${IN}`);
  const states = new Map(
    (
      await rows<{ number: string; state: string; tries: number }>(
        "select r.number, m.state, m.tries from message m join request r on r.id = m.request_id where m.direction = 'out' and m.channel = 'mail'",
      )
    ).map((m) => [m.number, m]),
  );
  let doubled = 0;
  for (const r of requests) {
    const m = states.get(r.number);
    if (!m) {
      wrong.push(`${r.number} has no mail`);
      continue;
    }
    const kept = post.folders.list(`${r.title}@out.example`);
    const mails = await Promise.all(
      kept.map((k) => simpleParser(post.folders.read(`${r.title}@out.example`, k.name)!)),
    );
    const ids = new Set(mails.map((x) => x.messageId));
    if (ids.size > 1) wrong.push(`${r.number}: ${ids.size} mails that are told apart`);
    if (mails.some((x) => x.subject !== r.number)) wrong.push(`${r.number}: another's mail`);
    if (m.state === "sent" && mails.length === 0)
      wrong.push(`${r.number} is said to be sent, and is not there`);
    if (m.state !== "sent" && m.state !== "perhaps") wrong.push(`${r.number} is ${m.state}`);
    if (mails.length > 1 && r.process_key === "once") wrong.push(`${r.number} came ${mails.length} times`);
    if (mails.length > 1) doubled++;
  }
  const messages = room.messages.of({ account: "anselm.kerr" });
  const perRequest = new Map<string, number>();
  for (const m of messages) perRequest.set(m.message.heading, (perRequest.get(m.message.heading) ?? 0) + 1);
  for (const r of requests)
    if (perRequest.get(r.number) !== 1)
      wrong.push(`${r.number} stands ${perRequest.get(r.number) ?? 0} times in chat`);
  const dead = await rows("select 1 from graphile_worker.jobs where attempts >= max_attempts");
  if (dead.length > 0) wrong.push(`${dead.length} jobs gave up`);
  const replayed = await replayRequests(SYSTEM);
  if (replayed.differ.length > 0)
    wrong.push(`${replayed.differ.length} requests are kept otherwise than their events tell`);
  say(
    `${replayed.requests} requests, ${replayed.events} events replayed; ${doubled} of those that may be sent again came more than once, under the same id`,
  );
  return wrong;
}

main().catch((e: unknown) => {
  process.stderr.write(`${e instanceof Error ? e.stack : String(e)}\n`);
  process.exit(1);
});

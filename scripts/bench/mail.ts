import { spawn, type ChildProcess } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { closePool, getPool, mailboxes } from "@/db";
import {
  actorOf,
  becomePerson,
  createProcess,
  releaseDraft,
  sealMailPassword,
  startRequest,
  SYSTEM,
} from "@/services";
import type { ProcessDefinition } from "@/core/route";
import { freePort } from "../lib/cluster.mjs";
import { deliver } from "../../stand-ins/post/delivery";
import { NO_FAULTS } from "../../stand-ins/post/faults";
import { startPost, type Post } from "../../stand-ins/post/post";

/**
 * Mail out through SMTP with two workers, and mail in through IMAP, each from when the workers begin with it to when all
 * of it is kept as done, with the Desk asked meanwhile. Arguments: the web server's address, how many out, how many in.
 */
const base = process.argv[2]!;
const OUT = Number(process.argv[3] ?? 600);
const IN = Number(process.argv[4] ?? 1500);
const DESK_EVERY_MS = 250;
const BUDGET = { out: 20, in: 50, deskMs: 300 } as const;
const BOX = "bench@quillhaven.example";

const definition = {
  format: "cobble-step/process@2",
  key: "bench-mail",
  name: "Bench of mail",
  purpose: "",
  owners: ["tobias.marrin"],
  numbering: { prefix: "POST", digits: 6 },
  title: "Bench {Amount}",
  mailbox: BOX,
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  access: {},
  samples: [],
  fields: [{ id: "amount", name: "Amount", kind: "money", needed: "true" }],
  letters: [
    {
      id: "l",
      name: "Receipt",
      texts: [
        {
          language: "en",
          subject: "{Request.number}: your request",
          parts: [
            { part: "paragraph", runs: [{ text: "It is about EUR " }, { value: "Amount", bold: true }] },
            {
              part: "lines",
              of: "for i in 1..10 return i",
              as: "N",
              columns: [{ title: "No.", value: "N" }],
            },
          ],
        },
      ],
    },
  ],
  route: [
    {
      id: "write",
      name: "Write",
      kind: "tell",
      who: { by: "formula", formula: '"to" + string(Amount) + "@bench.example"' },
      subject: "",
      text: "",
      mail: {},
      letter: "l",
      ways: [],
    },
    {
      id: "check",
      name: "Check",
      kind: "decide",
      who: { rule: { by: "person", person: "sorcha.lind" }, how: "one" },
      answers: [{ id: "ok", label: "Seen", tone: "agree", steps: [] }],
    },
  ],
} as unknown as ProcessDefinition;

const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
const must = <T>(o: { ok: true; value: T } | { ok: false; failure: unknown }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o.failure));
  return o.value;
};
const count = async (what: string): Promise<number> =>
  Number(
    (await getPool().query(`select count(*) as n from message where mailbox = $1 and ${what}`, [BOX])).rows[0]
      .n,
  );

const workers: ChildProcess[] = [];
const start = () =>
  void workers.push(
    spawn(process.execPath, ["dist/src/worker/main.cjs"], { env: process.env, stdio: "ignore" }),
  );
const stopWorkers = () =>
  Promise.all(
    workers.splice(0).map(
      (w) =>
        new Promise<void>((resolve) => {
          if (w.exitCode !== null) return resolve();
          w.once("exit", () => resolve());
          w.kill("SIGTERM");
        }),
    ),
  );

/** How many a second, from the first that is done to the last. */
async function rate(what: string, all: number): Promise<number> {
  let began = 0;
  let from = 0;
  for (const end = performance.now() + 300_000; performance.now() < end; await pause(100)) {
    const n = await count(what);
    if (began === 0 && n > 0) [began, from] = [performance.now(), n];
    if (n >= all) return (n - from) / ((performance.now() - began) / 1000);
  }
  throw new Error(`only ${await count(what)} of ${all} were done in five minutes`);
}

/** With the Desk asked meanwhile: what came, and the 95th percentile of the Desk in milliseconds. */
async function beside<T>(headers: HeadersInit, work: () => Promise<T>): Promise<{ came: T; p95: number }> {
  const ms: number[] = [];
  let asking = true;
  const asked = (async () => {
    for (; asking; await pause(DESK_EVERY_MS)) {
      const began = performance.now();
      await (await fetch(`${base}/desk`, { headers })).text();
      ms.push(performance.now() - began);
    }
  })();
  const came = await work();
  asking = false;
  await asked;
  return { came, p95: ms.sort((a, b) => a - b)[Math.floor(ms.length * 0.95)]! };
}

async function main(post: Post, smtp: number, imap: number) {
  const db = getPool();
  // Those of the demo lead to a server that is not there.
  await db.query("delete from mailbox");
  await mailboxes.putMailbox(db, {
    address: BOX,
    name: "Bench",
    smtp_host: "127.0.0.1",
    smtp_port: smtp,
    imap_host: "127.0.0.1",
    imap_port: imap,
    security: "none",
    user_name: BOX,
    password: sealMailPassword("quillhaven"),
    news: false,
    checks_by: "",
  });
  must(await createProcess(SYSTEM, definition));
  must(await releaseDraft(SYSTEM, definition.key, "1.0.0", ""));
  const asker = (await actorOf(db, "piet.hanlon"))!;
  for (let i = 1; i <= OUT; i++) must(await startRequest(asker, definition.key, { amount: String(i) }));
  const session = await becomePerson("piet.hanlon", { browser: "bench", earlier: null, known: null });
  const headers = { cookie: `cobble_session=${session!.token}` };
  for (let i = 0; i < 20; i++) await (await fetch(`${base}/desk`, { headers })).text();

  start();
  start();
  const out = await beside(headers, () => rate("direction = 'out' and state = 'sent'", OUT));
  await stopWorkers();
  for (let i = 0; i < IN; i++) {
    const from = `w${i % 40}@bench.example`;
    const raw = Buffer.from(
      `From: ${from}\r\nTo: ${BOX}\r\nSubject: Mail ${i}\r\nMessage-ID: <m${i}@bench.example>\r\n\r\nNumber ${i}.\r\n`,
    );
    await deliver(post.folders, NO_FAULTS, { raw, from, to: [BOX], signedIn: from });
  }
  start();
  start();
  const in_ = await beside(headers, () => rate("direction = 'in'", IN));
  await stopWorkers();

  const line = (what: string, says: string, budget: string, over: boolean) =>
    process.stdout.write(`${what.padEnd(44)} ${says.padEnd(24)} budget ${budget}${over ? "  OVER" : ""}\n`);
  const perSecond = (n: number) => `${n.toFixed(0)}/s`;
  line(`${OUT} mails out, two workers`, perSecond(out.came), `${BUDGET.out}/s`, out.came < BUDGET.out);
  line(
    "Desk meanwhile, 95th percentile",
    `${out.p95.toFixed(0)} ms`,
    `${BUDGET.deskMs} ms`,
    out.p95 > BUDGET.deskMs,
  );
  line(`${IN} mails in`, perSecond(in_.came), `${BUDGET.in}/s`, in_.came < BUDGET.in);
  line(
    "Desk meanwhile, 95th percentile",
    `${in_.p95.toFixed(0)} ms`,
    `${BUDGET.deskMs} ms`,
    in_.p95 > BUDGET.deskMs,
  );
}

const folder = mkdtempSync(join(tmpdir(), "bench-post-"));
chmodSync(folder, 0o755);
const smtpPort = await freePort(3625);
const imapPort = await freePort(smtpPort + 1);
const post = await startPost({ folder, smtpPort, imapPort, pagePort: null });
try {
  await main(post, smtpPort, imapPort);
} catch (e) {
  process.stderr.write(`${e instanceof Error ? (e.stack ?? e.message) : String(e)}\n`);
  process.exitCode = 1;
} finally {
  await stopWorkers();
  await post.stop();
  await closePool();
  rmSync(folder, { recursive: true, force: true });
}

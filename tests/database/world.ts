import { randomBytes } from "node:crypto";
import pg from "pg";
import { closePool, getPool } from "@/db";
import { actorOf, type Actor, type SigningIn } from "@/services";
import { day } from "../day";

/** A database of its own for one test file, copied from the seeded one. */
export async function openWorld(): Promise<{ url: string; close(): Promise<void> }> {
  const cluster = process.env["CLUSTER_URL"];
  if (!cluster) throw new Error("CLUSTER_URL is not set: run the database tests by npm test -- database");
  const name = `test_${randomBytes(6).toString("hex")}`;
  const admin = new pg.Client({ connectionString: cluster });
  await admin.connect();
  await admin.query("select pg_advisory_lock(1)");
  await admin.query(`create database ${name} template seeded`);
  await admin.query("select pg_advisory_unlock(1)");
  const url = cluster.replace(/\/[^/]*$/, `/${name}`);
  process.env["DATABASE_URL"] = url;
  return {
    url,
    async close() {
      await closePool();
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
}

/** A browser in which nobody has signed in yet. */
export const BROWSER: SigningIn = { browser: "A browser", earlier: null, known: null };

/** Somebody who has just signed in. */
export async function person(id: string): Promise<Actor> {
  const a = await actorOf(getPool(), id, { kind: "session", id: "0", provedAt: Date.now() });
  if (!a) throw new Error(`nobody is ${id}`);
  return a;
}

export const sql = async <T = Record<string, unknown>>(text: string, values: unknown[] = []): Promise<T[]> =>
  (await getPool().query(text, values)).rows as T[];

/** Fills tables on a connection of its own, which is held to no time: the pool's limits are for people's work. */
export async function fill(texts: readonly string[]): Promise<void> {
  const client = new pg.Client({ connectionString: process.env["DATABASE_URL"] });
  await client.connect();
  try {
    for (const text of texts) await client.query(text);
  } finally {
    await client.end();
  }
}

/** Waits until something becomes true, or says what it was waiting for. */
export async function until(what: string, check: () => Promise<boolean>, ms = 15_000): Promise<void> {
  const end = Date.now() + ms;
  while (!(await check())) {
    if (Date.now() > end) throw new Error(`waited ${ms} ms in vain: ${what}`);
    await new Promise((r) => setTimeout(r, 50));
  }
}

/** Values out of a successful outcome; a failure fails the test with its data. */
export function value<T>(o: { ok: true; value: T } | { ok: false; failure: unknown }): T {
  if (!o.ok) throw new Error(JSON.stringify(o.failure));
  return o.value;
}

export const KEY = {
  store: "1",
  from: day(14),
  until: day(16),
  purpose: "Condition check",
  trained: true,
  assessed: true,
};
export const orderOf = (quantity: number, item = "11") => ({
  project: "Guild banners",
  urgent: false,
  reason: "Needed for the banners.",
  items: [{ "#": "1", item, quantity: String(quantity) }],
});

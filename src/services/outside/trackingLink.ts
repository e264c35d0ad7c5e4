import { createHash, randomBytes } from "node:crypto";
import { followerOf, hearerOf } from "@/core/form";
import { getPool, inTransaction, messages, outside, requests, type Db } from "@/db";
import type { Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { loadRequest } from "../requests/loadRequest";
import { VISIT, visitorAs } from "./visitor";

const digest = (token: string): Buffer => createHash("sha256").update(token).digest();

/** A new link by which a request is followed; only what is made of it is kept. @returns what stands in the address */
export async function makeTrackingLink(db: Db, request: string): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await outside.insertTrackingLink(db, { hash: digest(token), request, now: await nowMs(db) });
  return token;
}

/** Whoever comes by a link, and which request they follow; or why it leads nowhere, in a sentence. */
export async function followerBy(
  token: string,
): Promise<{ actor: Actor; number: string } | { gone: string }> {
  const db = getPool();
  const link = VISIT.test(token) ? await outside.trackingLinkOf(db, digest(token)) : null;
  if (!link || link.account === null)
    return {
      gone: "This link is not known. Perhaps it was cut off where the letter was shown; copy all of it.",
    };
  if (link.revoked)
    return {
      gone: "This link has been called back and leads nowhere any more. A newer letter holds a newer one.",
    };
  return { actor: visitorAs(await loadDirectory(db), link.account, "link"), number: link.number };
}

/**
 * Makes all links void by which a request is followed from outside; and sends a new one, where there is an address and a
 * mailbox.
 * @returns how many links were good until now, and whether a letter with a new one is on its way
 */
export const callBackLinks = defineUseCase(
  ["see request", "close links"],
  async (c, number: string, anew: boolean): Promise<{ void: number; sent: boolean }> => {
    const { row, owner, release } = await loadRequest(c, { number });
    c.must(
      { action: "close links", owner },
      {
        code: "not-allowed",
        data: { action: "call back the links to this request; its process owners may" },
      },
    );
    const asker = row.state.requester;
    if (followerOf(asker) === null || asker.kind !== "outside")
      throw new Failed({
        code: "invalid",
        data: { path: "", message: `${number} was not asked by a public form: nobody follows it by a link.` },
      });
    return inTransaction(async (db) => {
      const now = await nowMs(db);
      const gone = await outside.revokeTrackingLinks(db, row.id, now);
      const mailbox = release.definition.mailbox ?? "";
      const sends = anew && hearerOf(asker) !== null;
      if (sends)
        await messages.insertOutgoing(db, {
          request: row.id,
          mailbox,
          effect: `asker:link:${now}`,
          receivers: [{ name: asker.name, email: asker.email }],
          subject: `${number}: a new link`,
          body: "The links you have had until now lead nowhere any more.",
          hidden: false,
          about: null,
          at: now,
        });
      await requests.tick(db, number, null);
      return { void: gone, sent: sends };
    });
  },
);

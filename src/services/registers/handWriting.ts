import type { Client } from "@/db";
import { viaText, type Actor } from "../kernel/actor";
import { nowMs } from "../kernel/clock";
import type { Directory } from "../kernel/directory";
import type { Writing } from "./writing";

/** How somebody writes records by hand, or a program by itself. */
export const handWriting = async (db: Client, directory: Directory, actor: Actor): Promise<Writing> => ({
  db,
  directory,
  at: await nowMs(db),
  by: actor.kind === "system" ? null : actor.id,
  via: viaText(actor.via),
  request: null,
  behind: actor.kind === "person" || actor.kind === "service" ? { kind: actor.kind, id: actor.id } : null,
  chain: [],
});

import { createHash } from "node:crypto";
import { DEFAULT_CALENDAR, type CompiledRelease } from "@/core/engine";
import { openAccess, VISITOR, type AccessOf, type OpenTo } from "@/core/form";
import { startKind, type OfOpen } from "@/core/kinds";
import { START, type Start } from "@/core/route";
import { getPool } from "@/db";
import { KINDS } from "@/kinds";
import type { Actor } from "../kernel/actor";
import { loadDirectory, type Directory } from "../kernel/directory";

/** What somebody outside carries: made by their browser, and known to nobody else. */
export const VISIT = /^[\w-]{43}$/;

/** The account of whoever carries something; of an account alone nobody comes to what is carried. */
export const accountOfVisit = (visit: string): string =>
  `${VISITOR}${createHash("sha256").update(visit).digest("hex").slice(0, 40)}`;

/** By which clock people outside read times: that of the organisation. */
export const zoneOutside = (d: Directory): string =>
  (d.calendars.get(DEFAULT_CALENDAR) ?? [...d.calendars.values()][0])?.zone ?? "UTC";

/** Somebody outside as who acts. */
export const visitorAs = (d: Directory, account: string, by: "form" | "link"): Actor => ({
  kind: "visitor",
  id: account,
  name: "Somebody outside",
  department: "",
  groups: [],
  officeRights: false,
  zone: zoneOutside(d),
  via: { kind: "outside", id: by },
});

/** Whoever carries something, for whatever they do with a public form; null for what no browser of ours made. */
export const visitorBy = async (visit: string): Promise<Actor | null> =>
  VISIT.test(visit) ? visitorAs(await loadDirectory(getPool()), accountOfVisit(visit), "form") : null;

/** Somebody who has not begun anything yet, and only looks. */
export const passerBy = async (): Promise<Actor> =>
  visitorAs(await loadDirectory(getPool()), `${VISITOR}nobody`, "form");

/** The form that a process opens to people outside; null where it opens none. */
export function openOf(starts: readonly Start[]): { start: string; open: OfOpen } | null {
  for (const s of starts) {
    const open = startKind(KINDS, s).opens?.(s);
    if (open) return { start: s.id, open };
  }
  return null;
}

/** Of a process that has closed its public form meanwhile. */
const CLOSED: OpenTo = { files: false, staff: false };

/** Whoever is asked at a step by their address: its owner has thought of what they are shown and bring. */
const ASKED: OpenTo = { files: true, staff: false };

/** What whoever acts may have of a form at a place of its route: people here what access says, others less. */
export function accessFor(
  actor: Pick<Actor, "kind">,
  { definition, access }: Pick<CompiledRelease, "definition" | "access">,
  place: string,
): AccessOf {
  const is = access(place);
  if (actor.kind !== "visitor") return is;
  const to = place === START ? (openOf(definition.starts)?.open ?? CLOSED) : ASKED;
  return openAccess(definition.fields, is, KINDS.fields, to);
}

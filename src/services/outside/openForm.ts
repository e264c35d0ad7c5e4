import { NEW_REQUEST, NONE_READ, Turn } from "@/core/engine";
import { mergeEdits, type FormData, type Party, type FormAnswer, type FormQuestion } from "@/core/form";
import type { OfOpen } from "@/core/kinds";
import { START } from "@/core/route";
import { getPool } from "@/db";
import { beginsWith } from "../ask/beginsWith";
import { nowMs } from "../kernel/clock";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { loadDirectory } from "../kernel/directory";
import { registersSeen } from "../kernel/registersSeen";
import { askForm } from "../requests/askForm";
import { engineFacts, factsReader } from "../requests/facts";
import { formPage, type FormPage } from "../requests/formPage";
import { registersAtHand } from "../requests/registersAtHand";
import { releaseFor } from "../requests/releases";
import { publicProcess } from "./publicProcess";
import { accessFor } from "./visitor";

/** A form as somebody outside has it, with nothing of Cobble Step around it. */
export interface OpenPage {
  process: string;
  name: string;
  purpose: string;
  open: Pick<OfOpen, "letterhead" | "greeting" | "asks" | "files">;
  form: FormPage & { before: FormData };
  /** What of the link that led here could not be read. */
  said: string[];
}

/** Whoever sends a form from outside: known by what they say of themselves, and by an account for this one request. */
export const askerOutside = (
  c: Call,
  { name, email }: { name: string; email: string },
  { mailbox, sure }: { mailbox: string | undefined; sure: boolean },
): Party => ({
  kind: "outside",
  name,
  email,
  through: c.actor.id,
  follows: email !== "" && mailbox ? "letters" : "page",
  ...(sure ? {} : { unsure: true }),
});

/** The form of a process where somebody outside fills it in. */
async function atOpen(c: Call, processKey: string) {
  const db = getPool();
  const { row, open } = await publicProcess(c, db, processKey);
  const d = await loadDirectory(db);
  const release = await releaseFor(db, d, row.id);
  const now = await nowMs(db);
  const access = accessFor(c.actor, release, START);
  const requester = askerOutside(c, { name: "", email: "" }, { mailbox: undefined, sure: false });
  const turn = new Turn(
    release,
    { ...NEW_REQUEST, requester, startedAt: now },
    engineFacts(d, { people: d.facts, registers: d.registers, records: {} }, now, c.actor.zone),
    c.actor.id,
  );
  const shapes = registersAtHand(d, release, NONE_READ);
  const reader = factsReader(db, d, release.definition, { request: null, by: [c.actor.id] }, shapes);
  return { row, open, d, release, now, seen: registersSeen(d, c.actor), access, requester, turn, reader };
}

/** What a public form asks while somebody outside fills it in. @param typed all they have filled in so far */
export const askAtOpen = defineUseCase(
  ["ask from outside"],
  async (c, processKey: string, typed: FormData, q: FormQuestion): Promise<FormAnswer> => {
    const { d, release, now, seen, access, turn, reader, requester } = await atOpen(c, processKey);
    return askForm(
      {
        d,
        release,
        process: processKey,
        data: mergeEdits(release.definition.fields, {}, typed, access),
        before: {},
        access,
        extra: turn.extraNames(),
        reader,
        at: now,
        zone: c.actor.zone,
        seen,
        outside: requester,
      },
      q,
    );
  },
);

/**
 * The form of a process that is open to people outside: empty, or with what their browser has kept.
 * @param link values by name of a field, as text
 * @param typed what they had typed before
 */
export const openForm = defineUseCase(
  ["ask from outside"],
  async (
    c,
    processKey: string,
    link: Readonly<Record<string, string>> = {},
    typed: FormData | null = null,
  ): Promise<OpenPage> => {
    const db = getPool();
    const at = await atOpen(c, processKey);
    const { row, open, d, release, now, seen, access, requester, turn, reader } = at;
    const around = { actor: c.actor, access, turn, reader, seen, held: {}, at: now };
    const begun = typed
      ? { data: mergeEdits(release.definition.fields, {}, typed, access), said: [] }
      : await beginsWith(db, d, release, around, { link });
    const form = await formPage(reader, d, release, begun.data, access, {
      requester,
      number: "",
      extra: turn.extraNames(),
      before: {},
      layout: release.definition.forms?.[START],
      at: now,
      zone: c.actor.zone,
      seen,
      outside: true,
    });
    const { letterhead, greeting, asks, files } = open;
    return {
      process: processKey,
      name: row.released.name,
      purpose: row.released.purpose,
      open: { letterhead, greeting, asks, files },
      form: { ...form, before: {}, data: { ...form.data, ...begun.data } },
      said: begun.said,
    };
  },
);

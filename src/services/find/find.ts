import { recordTitle, walkFields } from "@/core/form";
import { placesOf } from "@/core/route";
import { KINDS } from "@/kinds";
import { getPool, processes, registers, requests, searching } from "@/db";
import { catalogue } from "../ask/ask";
import { loadDirectory } from "../kernel/directory";
import { defineView, type Call } from "../kernel/defineUseCase";
import { registersSeen } from "../kernel/registersSeen";
import { lettersWith } from "../mail/conversation";

/** Something a person may go to. */
export interface Found {
  kind: "form" | "request" | "conversation" | "record" | "process" | "field" | "step" | "letter";
  name: string;
  /** What it belongs to, in words. */
  where: string;
  href: string;
}

const EACH = 6;
/** A shorter text is in nearly every record; nothing is looked for in registers then. */
const RECORDS_FROM = 3;
const LETTERS_FROM = 3;

/** Forms, requests, records, and what one designs, by a part of their name; of each kind only what this person may see. */
export const find = defineView(
  ["use own", "ask", "read registers", "design", "watch"],
  async (c, text: string): Promise<Found[]> => {
    const words = text.trim().slice(0, 100);
    if (!c.may({ action: "use own", person: c.actor.id }) || !words) return [];
    const [forms, asked, written, records, designed] = await Promise.all([
      catalogue(c.actor).then((all) =>
        all.entries.map((e): Found => ({
          kind: "form",
          name: e.name,
          where: "make a request",
          href: `/ask/${e.key}`,
        })),
      ),
      searching((db) => requests.findRequests(db, c.actor.id, words, EACH)).then((all) =>
        all.map((r): Found => ({
          kind: "request",
          name: `${r.number} · ${r.title}`,
          where: r.process_name,
          href: `/requests/${r.number}`,
        })),
      ),
      lettersFound(c, words),
      recordsNamed(c, words),
      designedBy(c, words),
    ]);
    const like = best(words);
    return [...like(forms), ...asked, ...written, ...like(designed), ...records];
  },
);

/** The best few of each kind: those that begin so before those that hold it. */
const best =
  (words: string) =>
  (all: readonly Found[]): Found[] => {
    const w = words.toLowerCase();
    const rank = (f: Found) => {
      const name = f.name.toLowerCase();
      const fits = [name.startsWith(w), name.includes(` ${w}`), name.includes(w)];
      return fits.includes(true) ? fits.indexOf(true) : 3;
    };
    const taken = new Map<Found["kind"], number>();
    return all
      .map((f) => ({ f, r: rank(f) }))
      .filter((x) => x.r < 3)
      .sort((a, b) => a.r - b.r)
      .flatMap(({ f }) => {
        const n = (taken.get(f.kind) ?? 0) + 1;
        taken.set(f.kind, n);
        return n <= EACH ? [f] : [];
      });
  };

async function lettersFound(c: Call, words: string): Promise<Found[]> {
  if (words.length < LETTERS_FROM) return [];
  return (await lettersWith(c, words, EACH)).map(({ number, subject, around }) => ({
    kind: "conversation",
    name: subject.includes(number) ? subject : `${number} · ${subject}`,
    where: around,
    href: `/requests/${number}#conversation`,
  }));
}

async function recordsNamed(c: Call, words: string): Promise<Found[]> {
  if (words.length < RECORDS_FROM || !c.may({ action: "read registers" })) return [];
  const d = await loadDirectory(getPool());
  const seen = registersSeen(d, c.actor);
  const found: Found[] = [];
  await searching(async (db) => {
    for (const shape of Object.values(seen))
      for (const r of await registers.recordsTitled(db, shape, words, 3, d.registers[shape.key]))
        found.push({
          kind: "record",
          name: recordTitle(shape, r),
          where: shape.name,
          href: `/registers/${shape.key}/${r.id}`,
        });
  });
  return found.slice(0, 2 * EACH);
}

/** Processes a person may design, with their fields and steps. */
async function designedBy(c: Call, words: string): Promise<Found[]> {
  const rows = (await processes.draftsHolding(getPool(), words)).filter((r) =>
    c.may({ action: "design", owner: r.owners.includes(c.actor.id) }),
  );
  return rows.flatMap(({ definition: d }) => {
    const out: Found[] = [{ kind: "process", name: d.name, where: "Workshop", href: `/workshop/${d.key}` }];
    walkFields(
      d.fields,
      (f) =>
        void out.push({
          kind: "field",
          name: f.name,
          where: d.name,
          href: `/workshop/${d.key}/form#field-${f.id}`,
        }),
    );
    for (const l of d.letters ?? [])
      out.push({ kind: "letter", name: l.name, where: d.name, href: `/workshop/${d.key}/letters#${l.id}` });
    for (const { step, number } of placesOf(d, KINDS).values())
      out.push({
        kind: "step",
        name: step.name,
        where: `${d.name}, ${number}`,
        href: `/workshop/${d.key}/route#step-${step.id}`,
      });
    return out;
  });
}

import type { CompiledRelease, Turn } from "@/core/engine";
import {
  flatFields,
  labelOf,
  likeBefore,
  recordTitle,
  startingValues,
  type AccessOf,
  type CellContext,
  type Field,
  type FormData,
  type Named,
  type Registers,
  type Stored,
} from "@/core/form";
import { KINDS } from "@/kinds";
import { registers, requests, searching, type Db } from "@/db";
import type { Actor } from "../kernel/actor";
import type { Directory } from "../kernel/directory";
import { engineFacts, type FactsReader } from "../requests/facts";
import { releaseFor } from "../requests/releases";

/** What somebody comes to a form with: values in the link that led there, and a request they want to make again. */
export interface ComesWith {
  /** By name or id of a field, as text. */
  link?: Readonly<Record<string, string>>;
  /** A number of theirs. */
  like?: string;
}
const MOST_IN_LINK = 50;
const LONGEST_IN_LINK = 2000;
const READING: CellContext["reading"] = { dates: "day", decimal: "." };

/**
 * What a form holds as it is opened for the first time: what is asked again, over it what the link says, and what fields
 * begin with that are still empty. Only what whoever opens it may fill in is filled in.
 * @returns the data, and in sentences what of the link could not be read
 */
export async function beginsWith(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  around: {
    actor: Actor;
    access: AccessOf;
    turn: Turn;
    reader: FactsReader;
    /** The registers they see. */
    seen: Registers;
    /** What stands in it already, and is nobody's to change here. */
    held: FormData;
    at: number;
  },
  { link = {}, like }: ComesWith,
): Promise<{ data: FormData; said: string[]; like: string | null }> {
  const { access, actor, reader, seen, turn } = around;
  const { fields } = release.definition;
  const before = like === undefined ? null : await askedBefore(db, d, release, actor, like);
  const again = before ? likeBefore(fields, before.fields, before.data, access, KINDS.fields) : {};
  const linked = await fromLink(fields, link, access, { d, seen });
  const data: FormData = { ...again, ...linked.data, ...around.held };
  const facts = engineFacts(d, await reader.load([], data), around.at, actor.zone);
  const begun = startingValues(release.form, data, access, facts, turn.extraNames());
  return { data: begun.data, said: linked.said, like: before ? like! : null };
}

/** A request of the same process that this person made; null for any other. */
async function askedBefore(
  db: Db,
  d: Directory,
  release: CompiledRelease,
  actor: Actor,
  number: string,
): Promise<{ fields: readonly Field[]; data: FormData } | null> {
  const row = await requests.requestByNumber(db, number.slice(0, 40));
  if (!row || row.requester_id !== actor.id || row.process_key !== release.definition.key) return null;
  const of = await releaseFor(db, d, row.release_id);
  return { fields: of.definition.fields, data: row.state.data };
}

async function fromLink(
  fields: readonly Field[],
  link: Readonly<Record<string, string>>,
  access: AccessOf,
  { d, seen }: { d: Directory; seen: Registers },
): Promise<{ data: FormData; said: string[] }> {
  const data: Record<string, Stored> = {};
  const said: string[] = [];
  for (const [name, text] of Object.entries(link).slice(0, MOST_IN_LINK)) {
    const f = flatFields(fields).find((x) => x.id === name || x.name.toLowerCase() === name.toLowerCase());
    const kind = f && KINDS.fields[f.kind];
    // What is not open here is not there for whoever comes by a link, whatever it is called.
    if (!f || !kind || f.worked || access(f.id) !== "edit") {
      said.push(`The link names “${name.slice(0, 60)}”, which is no field that can be filled in here.`);
      continue;
    }
    if (!kind.cell || text.length > LONGEST_IN_LINK) {
      said.push(
        `${labelOf(f)} cannot be filled in by a link${kind.cell ? ` with more than ${LONGEST_IN_LINK} characters` : ""}.`,
      );
      continue;
    }
    const named = kind.idOf === null ? NOBODY : await namedHere(d, seen, f, text);
    const read = kind.cell(f, { text }, { reading: READING, named: () => named });
    if ("why" in read)
      said.push(
        `${labelOf(f)}: ${read.why === "none" ? "nothing is" : "more than one is"} called “${text.slice(0, 60)}”. It is left empty.`,
      );
    else data[f.id] = read.kept;
  }
  return { data, said };
}

const NOBODY: Named = { why: "none" };

/** What a text in a link names: somebody by name, a record by what it is called, else by its number. */
async function namedHere(d: Directory, seen: Registers, f: Field, text: string): Promise<Named> {
  const same = (a: string) => a.toLowerCase() === text.trim().toLowerCase();
  const one = (ids: readonly string[]): Named => {
    if (ids.length === 1) return { id: ids[0]! };
    return { why: ids.length === 0 ? "none" : "several" };
  };
  if (KINDS.fields[f.kind].idOf === "person")
    return one(
      Object.values(d.facts).flatMap((p) => (!p.service && (p.id === text || same(p.name)) ? [p.id] : [])),
    );
  const shape = seen[f.register ?? ""];
  if (!shape) return NOBODY;
  const found = await searching((on) =>
    registers.recordsTitled(on, shape, text.trim(), MOST_ALIKE, d.registers[shape.key]),
  );
  const titled = found.filter((r) => same(recordTitle(shape, r)) || same(String(r[shape.title[0]!] ?? "")));
  if (titled.length > 0) return one(titled.map((r) => r.id));
  return /^\d{1,18}$/.test(text) ? { id: text } : NOBODY;
}
/** Records of one name that are looked at: more than one is enough to say that it is not clear. */
const MOST_ALIKE = 20;

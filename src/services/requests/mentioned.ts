import type { CompiledRelease, News, RequestEvent } from "@/core/engine";
import { mentionsIn } from "@/core/words";
import type { Actor } from "../kernel/actor";
import type { Directory } from "../kernel/directory";

/** People one command mentions at most; whoever else is named is not told. */
const MOST_MENTIONED = 50;

/** The words somebody has left with a command, with the event that tells of them. */
const notesOf = (events: readonly RequestEvent[], by: string): { seq: number; note: string }[] =>
  events.flatMap((told) => {
    let e = told;
    while (e.type === "in call") e = e.event;
    return e.by === by && "note" in e && e.note ? [{ seq: told.seq, note: e.note }] : [];
  });

/**
 * Whom somebody mentions by @ and their name in the notes of what they do, where the owner of the process lets such people
 * look at the request: told, with the way there. Where several have the name nobody is meant.
 */
export function mentionedIn(
  d: Pick<Directory, "people">,
  { definition }: Pick<CompiledRelease, "definition">,
  { number, events }: { number: string; events: readonly RequestEvent[] },
  actor: Actor,
): Extract<News, { kind: "mentioned" }>[] {
  // What somebody outside or a program writes tells nobody here.
  if (!definition.mentions || actor.kind !== "person") return [];
  const notes = notesOf(events, actor.id).filter((n) => n.note.includes("@"));
  if (notes.length === 0) return [];
  const people = [...d.people.values()].filter((p) => p.active && p.id !== actor.id);
  const told = new Map<string, number>();
  for (const { seq, note } of notes)
    for (const id of mentionsIn(note, people).people) if (!told.has(id)) told.set(id, seq);
  return [...told]
    .slice(0, MOST_MENTIONED)
    .map(([to, seq]) => ({ kind: "mentioned", to, task: null, seq, facts: { by: actor.id, on: number } }));
}

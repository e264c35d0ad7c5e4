"use client";
import { ListPlus } from "lucide-react";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { labelOf, type Field, type StoredRecord } from "@/core/form";
import { Button, Dialog } from "@/ui";
import type { InputContext } from "./inputContext";
import { offeredBy } from "./offeredBy";

type Found = Awaited<ReturnType<InputContext["lookUp"]>>[number];

interface Props {
  /** The column whose records are ticked. */
  column: Field;
  /** Ids that are there already, and what is said of those. */
  there: ReadonlySet<string>;
  saysThere: string;
  /** What each becomes: one, many. */
  thing: readonly [string, string];
  /** How many there is still room for. */
  room: number;
  context: InputContext;
  onAdd(ids: string[]): void;
}

/** Many records ticked at once; what is ticked stays so while another is looked for. */
export function AddSeveral({ column, there, saysThere, thing, room, context, onAdd }: Props) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const [found, setFound] = useState<Found[] | null>(null);
  const [ticked, setTicked] = useState<ReadonlyMap<string, { title: string; record: StoredRecord }>>(
    new Map(),
  );
  const latest = useRef(0);
  const register = column.register ?? "";
  const look = useEffectEvent(async (text: string): Promise<Found[]> => {
    const offered = offeredBy(context, column, column.id);
    if (!offered) return context.lookUp(register, text);
    const all = await offered(text);
    return Array.isArray(all) ? all.flatMap((o) => (o.record ? [{ ...o, record: o.record }] : [])) : [];
  });
  useEffect(() => {
    if (!open) return;
    const turn = ++latest.current;
    const timer = setTimeout(
      () => void look(search).then((all) => turn === latest.current && setFound(all)),
      search ? 120 : 0,
    );
    return () => clearTimeout(timer);
  }, [open, search]);
  const tick = (f: Found, on: boolean) =>
    setTicked((t) => {
      const next = new Map(t);
      if (on) next.set(f.id, f);
      else next.delete(f.id);
      return next;
    });
  const others = [...ticked].filter(([id]) => !found?.some((f) => f.id === id));
  const add = () => {
    for (const { record } of ticked.values()) context.learn(register, record);
    onAdd([...ticked.keys()]);
    setOpen(false);
    setTicked(new Map());
    setSearch("");
  };
  const box = (f: Found) => (
    <label key={f.id} className="flex min-h-8 items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-[var(--moss)]"
        checked={ticked.has(f.id)}
        disabled={!ticked.has(f.id) && ticked.size >= room}
        onChange={(e) => tick(f, e.target.checked)}
      />
      <span className="min-w-0 flex-1">{f.title}</span>
      {there.has(f.id) && <span className="text-sm text-soft">{saysThere}</span>}
    </label>
  );
  return (
    <>
      <Button small look="quiet" disabled={room === 0} onClick={() => setOpen(true)}>
        <ListPlus size={14} aria-hidden /> Add several…
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title={`${labelOf(column)}: which are added?`}>
        <input
          type="search"
          className="input mb-3"
          aria-label="Search"
          placeholder="Search by any part of the name"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <div className="max-h-[45vh] overflow-y-auto" aria-live="polite">
          {others.map(([id, of]) => box({ id, ...of }))}
          {found?.map(box)}
          {found === null && <p className="text-soft">Looking…</p>}
          {found?.length === 0 && <p className="text-soft">Nothing is called so.</p>}
        </div>
        <div className="mt-4 flex items-center gap-3">
          <Button look="main" disabled={ticked.size === 0} onClick={add}>
            {ticked.size === 1 ? `Add 1 ${thing[0]}` : `Add ${ticked.size} ${thing[1]}`}
          </Button>
          <Button look="quiet" onClick={() => setOpen(false)}>
            Leave it
          </Button>
          {ticked.size >= room && <span className="text-sm text-soft">There is room for {room} more.</span>}
        </div>
      </Dialog>
    </>
  );
}

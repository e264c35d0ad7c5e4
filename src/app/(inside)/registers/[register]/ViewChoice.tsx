"use client";
import Link from "next/link";
import { X } from "lucide-react";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Column } from "@/core/form";
import type { KeptView } from "@/services";
import { Button, Popover, Select } from "@/ui";
import { keepViewAction, removeViewAction } from "../../../actions/views";
import { say } from "../../../shell/say";
import { widenedView, type ColumnWidths } from "./columnWidths";

interface Props {
  register: string;
  name: string;
  columns: Column[];
  shown: string[];
  widths: ColumnWidths;
  group: string | null;
  /** The parameters of the list's address. */
  view: string;
  kept: KeptView[];
  /** Whether they may keep a view for everybody. */
  keeps: boolean;
}

/** How a list is looked at: its columns, its groups, and views kept under a name. All of it stands in the address. */
export function ViewChoice(p: Props) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const here = p.kept.find((v) => v.view === p.view);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button small look="quiet">
          {here ? `View: ${here.name}` : "View…"}
        </Button>
      }
      width={400}
    >
      <div className="grid gap-4">
        {p.kept.length > 0 && <Kept {...p} onPicked={() => setOpen(false)} />}
        <Shown
          {...p}
          onPick={(view) => {
            setOpen(false);
            router.replace(`/registers/${p.register}?${view}`, { scroll: false });
          }}
        />
        <KeepThis {...p} />
      </div>
    </Popover>
  );
}

function Kept({ register, kept, onPicked }: Props & { onPicked(): void }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  return (
    <div>
      <p className="mb-1 text-sm text-soft">Kept views</p>
      <ul>
        {kept.map((v) => (
          <li key={v.id} className="flex items-center gap-2 py-0.5">
            <Link
              className="link min-w-0 flex-1 truncate"
              href={`/registers/${register}?${v.view}`}
              prefetch={false}
              onClick={onPicked}
            >
              {v.name}
            </Link>
            {v.shared && <span className="text-sm text-soft">everybody’s</span>}
            {v.mine && (
              <button
                type="button"
                aria-label={`Take away the view ${v.name}`}
                disabled={busy}
                className="grid size-7 place-items-center rounded hover:bg-slate-wash"
                onClick={() =>
                  start(async () => {
                    const r = await removeViewAction(v.id);
                    say(r.ok ? `The view ${v.name} is taken away.` : r.sentence);
                    router.refresh();
                  })
                }
              >
                <X size={14} aria-hidden />
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Widths there are words for. */
const SIZES = [
  { value: "", label: "as it needs" },
  { value: "120", label: "narrow" },
  { value: "220", label: "middle" },
  { value: "360", label: "wide" },
];

function Shown({ columns, shown, group, widths, view, onPick }: Props & { onPick(view: string): void }) {
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set(shown));
  const [by, setBy] = useState(group ?? "");
  const [wide, setWide] = useState(widths);
  const sizes = (id: string) => {
    const px = wide[id] === undefined ? "" : String(wide[id]);
    return SIZES.some((s) => s.value === px) ? SIZES : [...SIZES, { value: px, label: `${px} px` }];
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        const q = new URLSearchParams(view);
        q.delete("page");
        q.set(
          "cols",
          columns
            .filter((c) => ids.has(c.id))
            .map((c) => c.id)
            .join(","),
        );
        if (by) q.set("group", by);
        else q.delete("group");
        const sized = columns.reduce((v, c) => widenedView(v, c.id, wide[c.id] ?? null), String(q));
        onPick(sized);
      }}
    >
      <fieldset className="mb-3 max-h-60 overflow-y-auto">
        <legend className="mb-1 text-sm text-soft">Columns shown, and how wide</legend>
        {columns.map((c) => (
          <div key={c.id} className="flex items-center justify-between gap-3 py-0.5">
            <label className="flex min-w-0 items-center gap-2">
              <input
                type="checkbox"
                checked={ids.has(c.id)}
                onChange={() =>
                  setIds((s) => {
                    const next = new Set(s);
                    if (!next.delete(c.id)) next.add(c.id);
                    return next;
                  })
                }
              />
              {c.name}
            </label>
            <Select
              className="!w-32 shrink-0"
              aria-label={`Width of ${c.name}`}
              value={wide[c.id] === undefined ? "" : String(wide[c.id])}
              options={sizes(c.id)}
              onPick={(px) => {
                const { [c.id]: _, ...others } = wide;
                setWide(px === "" ? others : { ...others, [c.id]: Number(px) });
              }}
            />
          </div>
        ))}
      </fieldset>
      <label className="mb-3 block">
        <span className="mb-1 block text-sm text-soft">Grouped by</span>
        <Select
          value={by}
          empty="nothing: one by one"
          options={columns.filter((c) => c.kind !== "long text").map((c) => ({ value: c.id, label: c.name }))}
          onPick={setBy}
        />
      </label>
      <Button look="main" small type="submit" disabled={ids.size === 0}>
        Show it so
      </Button>
    </form>
  );
}

function KeepThis({ register, name: registerName, view, keeps }: Props) {
  const router = useRouter();
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  return (
    <form
      className="border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        start(async () => {
          const r = await keepViewAction(register, name, view, shared).catch(() => null);
          if (!r?.ok) return setWrong(r?.sentence ?? "The server could not be reached. Try again.");
          setWrong("");
          setName("");
          say(`The view ${name.trim()} is kept.`);
          router.refresh();
        });
      }}
    >
      <label className="mb-2 block">
        <span className="mb-1 block text-sm text-soft">Keep the view as it is now, under the name</span>
        <input className="input" value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      {keeps && (
        <label className="mb-2 flex items-center gap-2 text-sm">
          <input type="checkbox" checked={shared} onChange={() => setShared(!shared)} />
          for everybody who sees {registerName}
        </label>
      )}
      {wrong && (
        <p role="alert" className="mb-2 max-w-72 text-sm text-brick">
          {wrong}
        </p>
      )}
      <Button small type="submit" disabled={busy || name.trim() === ""}>
        {busy ? "Keeping…" : "Keep this view"}
      </Button>
    </form>
  );
}

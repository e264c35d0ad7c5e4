"use client";
import { usePathname } from "next/navigation";
import { useEffect, useState } from "react";
import { Button, Dialog, Kbd } from "@/ui";

interface Key {
  keys: string;
  does: string;
}
interface Group {
  name: string;
  /** Pages it holds for. */
  at: RegExp;
  keys: readonly Key[];
}

const GROUPS: readonly Group[] = [
  {
    name: "Route sheet",
    at: /^\/workshop\/[^/]+\/route/,
    keys: [
      { keys: "Enter, /", does: "a new step below" },
      { keys: "↑ ↓", does: "from row to row" },
      { keys: "Alt ↑, Alt ↓", does: "move the row, also into the next answer, way or branch" },
      { keys: "Tab, Shift Tab", does: "into the step above, out of its list" },
      { keys: "F2", does: "write its name" },
      { keys: "Shift F2", does: "write a note below it" },
      { keys: "Ctrl C, X, V", does: "copy, cut and put in rows" },
      { keys: "Delete", does: "remove the row" },
    ],
  },
  {
    name: "Form sheet",
    at: /^\/workshop\/[^/]+\/form/,
    keys: [
      { keys: "Enter", does: "a new row below, in a name" },
      { keys: "↑ ↓", does: "from name to name" },
      { keys: "Alt ↑, Alt ↓", does: "move the row" },
      { keys: "Alt →, Alt ←", does: "into the group above, out of it" },
      { keys: "Ctrl ⌫", does: "remove the row" },
    ],
  },
  {
    name: "Formulas",
    at: /^\/workshop\/|^\/registers\/./,
    keys: [
      { keys: "Ctrl Space", does: "what can stand here" },
      { keys: "Ctrl .", does: "mend the mistake" },
      { keys: "Enter", does: "keep it" },
      { keys: "Escape", does: "put back what was there" },
    ],
  },
  {
    name: "Workshop",
    at: /^\/workshop\/./,
    keys: [{ keys: "Ctrl Z, Ctrl Shift Z", does: "undo, redo" }],
  },
  {
    name: "Everywhere",
    at: /^/,
    keys: [
      { keys: "Ctrl K", does: "find any form, request, record, page" },
      { keys: "?", does: "these keys" },
      { keys: "Escape", does: "close what is open" },
    ],
  },
];

const WRITES = "input, textarea, select, [contenteditable]";

/** The keys of the page, on pressing the question mark where nobody writes. */
export function Keys() {
  const path = usePathname();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key !== "?" || e.ctrlKey || e.metaKey || e.altKey) return;
      if ((e.target as HTMLElement).closest?.(WRITES)) return;
      e.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  return (
    <Dialog open={open} onOpenChange={setOpen} title="Keys of this page">
      <div className="grid gap-4">
        {GROUPS.filter((g) => g.at.test(path)).map((g) => (
          <section key={g.name}>
            <h3 className="mb-1 text-soft">{g.name}</h3>
            <dl>
              {g.keys.map((k) => (
                <div key={k.keys} className="grid grid-cols-[11rem_minmax(0,1fr)] border-t border-line py-1">
                  <dt>
                    {k.keys.split(", ").map((x) => (
                      <span key={x} className="mr-1.5">
                        <Kbd>{x}</Kbd>
                      </span>
                    ))}
                  </dt>
                  <dd>{k.does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <p className="mt-4">
        <Button onClick={() => setOpen(false)}>Close</Button>
      </p>
    </Dialog>
  );
}

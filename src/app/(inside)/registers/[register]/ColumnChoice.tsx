"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Column } from "@/core/form";
import { Button, Popover } from "@/ui";

/** Which columns a list shows; kept in the address, so that a view can be sent to somebody. */
export function ColumnChoice({
  columns,
  shown,
  href,
}: {
  columns: Column[];
  shown: string[];
  /** Where the list is with these columns; `COLUMNS` stands for them. */
  href: string;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [ids, setIds] = useState<ReadonlySet<string>>(new Set(shown));
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button small look="quiet">
          Shown columns…
        </Button>
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          setOpen(false);
          const chosen = columns.filter((c) => ids.has(c.id)).map((c) => c.id);
          router.replace(href.replace("COLUMNS", chosen.join(",")), { scroll: false });
        }}
      >
        <fieldset className="mb-3 max-h-80 overflow-y-auto">
          <legend className="mb-1 text-sm text-soft">Columns shown</legend>
          {columns.map((c) => (
            <label key={c.id} className="flex items-center gap-2 py-0.5">
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
          ))}
        </fieldset>
        <Button look="main" small type="submit" disabled={ids.size === 0}>
          Show these
        </Button>
      </form>
    </Popover>
  );
}

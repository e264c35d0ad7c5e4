"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Dialog } from "@/ui";
import { copyProcessAction, newProcessAction } from "../../actions/workshop";

/** Makes a process: from nothing, or like one there is. */
export function NewProcess({ like }: { like: readonly { key: string; name: string }[] }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [prefix, setPrefix] = useState("");
  const [from, setFrom] = useState("");
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  return (
    <>
      <Button look="main" onClick={() => setOpen(true)}>
        New process…
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="New process">
        <form
          onSubmit={(e) => {
            e.preventDefault();
            start(async () => {
              const r = await (from ? copyProcessAction(from, name, prefix) : newProcessAction(name, prefix));
              if (r.ok) router.push(`/workshop/${r.value.key}/form`);
              else setSaid(r.sentence);
            });
          }}
        >
          {said && <Banner tone="bad">{said}</Banner>}
          <label htmlFor="new-name" className="mb-1 block">
            Name
          </label>
          <input
            id="new-name"
            className="input mb-3"
            value={name}
            onChange={(e) => setName(e.target.value)}
            placeholder="Parking permit"
          />
          <label htmlFor="new-prefix" className="mb-1 block">
            Request numbers start with
          </label>
          <input
            id="new-prefix"
            className="input mb-4 !w-40"
            value={prefix}
            onChange={(e) => setPrefix(e.target.value.toUpperCase())}
            placeholder="PARK"
          />
          {like.length > 0 && (
            <>
              <label htmlFor="new-like" className="mb-1 block">
                Beginning with
              </label>
              <select
                id="new-like"
                className="input mb-4"
                value={from}
                onChange={(e) => setFrom(e.target.value)}
              >
                <option value="">an empty form and route</option>
                {like.map((p) => (
                  <option key={p.key} value={p.key}>
                    a copy of {p.name}
                  </option>
                ))}
              </select>
            </>
          )}
          <div>
            <Button look="main" type="submit" disabled={busy}>
              Start designing
            </Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}

"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Banner, Button, Dialog, Field, Select } from "@/ui";
import { copyProcessAction, newProcedureAction, newProcessAction } from "../../actions/workshop";

/** Makes a process, or a procedure that processes hand to: from nothing, or like one there is. */
export function NewProcess({
  like,
  procedure = false,
}: {
  like: readonly { key: string; name: string }[];
  procedure?: boolean;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  /** As it was typed; until then it follows the name. */
  const [prefix, setPrefix] = useState<string | null>(null);
  const [from, setFrom] = useState("");
  const [said, setSaid] = useState("");
  const [busy, start] = useTransition();
  const shown = prefix ?? prefixFor(name);
  const what = procedure ? "New procedure" : "New process";
  const make = () => {
    if (from) return copyProcessAction(from, name, shown);
    return procedure ? newProcedureAction(name) : newProcessAction(name, shown);
  };
  return (
    <>
      <Button look={procedure ? "plain" : "main"} onClick={() => setOpen(true)}>
        {what}…
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title={what}>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            start(async () => {
              const r = await make();
              if (r.ok) router.push(`/workshop/${r.value.key}/form`);
              else setSaid(r.sentence);
            });
          }}
        >
          {said && <Banner tone="bad">{said}</Banner>}
          <div className="mb-4 grid gap-3">
            <Field label="Name">
              {(parts) => (
                <input
                  {...parts}
                  className="input"
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                  placeholder={procedure ? "Tell and close" : "Parking permit"}
                />
              )}
            </Field>
            {!procedure && (
              <Field
                label="Request numbers start with"
                help={
                  /^[A-Z0-9]{2,8}$/.test(shown)
                    ? `The first is ${shown}-0001.`
                    : "Two to eight capital letters or digits, for example PARK."
                }
              >
                {(parts) => (
                  <input
                    {...parts}
                    className="input !w-40"
                    value={shown}
                    onChange={(e) => setPrefix(e.target.value.toUpperCase())}
                  />
                )}
              </Field>
            )}
          </div>
          {like.length > 0 && (
            <>
              <label htmlFor="new-like" className="mb-1 block">
                Beginning with
              </label>
              <Select
                id="new-like"
                className="mb-4"
                value={from}
                onPick={(value) => setFrom(value)}
                empty="an empty form and route"
                options={like.map((p) => ({ value: p.key, label: `a copy of ${p.name}` }))}
              />
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

/** "Lecture room booking" is LRB; a single word gives its beginning. */
function prefixFor(name: string): string {
  const words = name
    .normalize("NFKD")
    .toUpperCase()
    .replace(/[^A-Z0-9\s-]/g, "")
    .split(/[\s-]+/)
    .filter(Boolean);
  const [first = ""] = words;
  return words.length > 1
    ? words
        .map((w) => w[0])
        .join("")
        .slice(0, 8)
    : first.slice(0, 4);
}

"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Place, PlaceKind } from "@/services";
import { Banner, Button } from "@/ui";
import { renamePlaceAction } from "../../../actions/people";
import { say } from "../../../shell/say";
import { useProof } from "../../../shell/useProof";

const several = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

/** Departments, or sites, each with what hangs on it. */
export function Places({
  kind,
  title,
  places,
  keeps,
}: {
  kind: PlaceKind;
  title: string;
  places: Place[];
  keeps: boolean;
}) {
  const router = useRouter();
  const [open, setOpen] = useState<string | null>(null);
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState("");
  const [told, setTold] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const taken = places.find((p) => p.name === name.trim() && p.name !== open);
  const rename = (from: string) =>
    start(async () => {
      const r = await proved(() => renamePlaceAction(kind, from, name));
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      setOpen(null);
      const { people, named } = r.value;
      say(`${name.trim()}: ${several(people, "person", "people")}.`);
      setTold(
        named.length > 0
          ? `“${from}” is still named in ${named.join(", ")}; its owners may want to look at that.`
          : "",
      );
      router.refresh();
    });
  return (
    <section aria-label={title}>
      <h2 className="mb-2">{title}</h2>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {told && <Banner tone="soon">{told}</Banner>}
      {places.length === 0 && <p className="text-soft">None yet.</p>}
      <ul>
        {places.map((p) => (
          <li key={p.name} className="border-t border-line py-1.5">
            {open === p.name ? (
              <form
                className="grid gap-2"
                aria-label={`Rename ${p.name}`}
                onSubmit={(e) => {
                  e.preventDefault();
                  rename(p.name);
                }}
              >
                <label className="block">
                  <span className="mb-1 block text-sm">New name of {p.name}</span>
                  <input className="input" required value={name} onChange={(e) => setName(e.target.value)} />
                </label>
                {taken && (
                  <p className="text-sm text-lichen">
                    {taken.name} is there already: it takes in everybody of {p.name}, and they cannot be told
                    apart afterwards.
                  </p>
                )}
                <span className="flex gap-2">
                  <Button small look="main" type="submit" disabled={busy}>
                    Rename
                  </Button>
                  <Button small onClick={() => setOpen(null)}>
                    Leave it
                  </Button>
                </span>
              </form>
            ) : (
              <div className="flex items-center gap-3">
                <span className="min-w-0 flex-1">
                  <span className="font-medium">{p.name}</span>{" "}
                  <span className="text-soft">
                    {several(p.people, "person", "people")}
                    {p.duties > 0 && `, ${several(p.duties, "duty", "duties")}`}
                  </span>
                </span>
                {keeps && (
                  <Button
                    small
                    look="quiet"
                    aria-label={`Rename ${p.name}`}
                    onClick={() => {
                      setOpen(p.name);
                      setName(p.name);
                      setWrong("");
                    }}
                  >
                    Rename
                  </Button>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Away } from "@/services";
import { Banner, Button, dateText, RadioGroup, Select } from "@/ui";
import { addAwayAction, removeAwayAction } from "../actions/people";
import { PersonPicker } from "./PersonPicker";
import { say } from "./say";

/** Who answers meanwhile, and in which duty. */
function meanwhile({ cover, covers, stays }: Away): string {
  const inDuties = covers.map((c) => `${c.cover} as ${c.duty}`);
  const others = covers.length > 0 ? "nobody else" : "nobody";
  const who = `${[...inDuties, cover ?? others].join(", ")} answers meanwhile`;
  return stays ? `${who}; what was open waits` : who;
}

/** When somebody is away and who answers for them; entered by themselves or by those who keep people. */
export function AwayTimes({
  person,
  away,
  may,
  people,
  duties,
  whose,
}: {
  person: string;
  away: Away[];
  may: boolean;
  people: { id: string; name: string; jobTitle: string }[];
  /** Names of the duties they hold. */
  duties: readonly string[];
  whose: string;
}) {
  const router = useRouter();
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [cover, setCover] = useState<string | null>(null);
  const [covers, setCovers] = useState<{ duty: string; cover: string | null }[]>([]);
  const [stays, setStays] = useState(false);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const more = duties.filter((d) => !covers.some((x) => x.duty === d));
  return (
    <section aria-labelledby="away">
      <h2 id="away" className="mb-2">
        Away
      </h2>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {away.length === 0 && <p className="text-soft">No times entered.</p>}
      <ul>
        {away.map((a) => (
          <li key={a.id} className="flex items-center gap-2 border-t border-line py-1">
            <span className="min-w-0 flex-1">
              {dateText(a.first)} to {dateText(a.last)}
              <span className="block text-sm text-soft">{meanwhile(a)}</span>
            </span>
            {may && (
              <Button
                small
                look="quiet"
                disabled={busy}
                aria-label={`Remove ${dateText(a.first)} to ${dateText(a.last)}`}
                onClick={() =>
                  start(async () => {
                    const r = await removeAwayAction(person, a.id);
                    setWrong(r.ok ? "" : r.sentence);
                    router.refresh();
                  })
                }
              >
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      {may && (
        <form
          className="mt-3 grid gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            start(async () => {
              const named = covers.flatMap((x) => (x.cover ? [{ duty: x.duty, cover: x.cover }] : []));
              if (named.length < covers.length)
                return setWrong("Choose who answers in each duty that is named, or remove it.");
              const r = await addAwayAction(person, first, last, cover, named, stays);
              setWrong(r.ok ? "" : r.sentence);
              if (!r.ok) return;
              say(
                stays
                  ? "Entered. What comes from then on goes to whoever covers; what is open waits."
                  : "Entered. Open tasks go to whoever covers when it begins.",
              );
              setCovers([]);
              setStays(false);
              setFirst("");
              setLast("");
              setCover(null);
              router.refresh();
            });
          }}
        >
          <p className="text-sm text-soft">{whose} away</p>
          <div className="grid grid-cols-2 gap-2">
            <label className="block">
              <span className="mb-1 block text-sm">From</span>
              <input
                type="date"
                required
                className="input"
                value={first}
                onChange={(e) => setFirst(e.target.value)}
              />
            </label>
            <label className="block">
              <span className="mb-1 block text-sm">Last day</span>
              <input
                type="date"
                required
                className="input"
                value={last}
                onChange={(e) => setLast(e.target.value)}
              />
            </label>
          </div>
          <span>
            <label htmlFor="away-cover" className="mb-1 block text-sm">
              Who answers meanwhile
            </label>
            <PersonPicker
              id="away-cover"
              label="Who answers meanwhile"
              people={people}
              value={cover}
              placeholder="Nobody; tasks wait"
              onPick={(o) => setCover(o?.id ?? null)}
            />
          </span>
          {covers.map((x, i) => (
            <div key={x.duty} className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
              <span>
                <label htmlFor={`away-cover-${i}`} className="mb-1 block text-sm">
                  As {x.duty}
                </label>
                <PersonPicker
                  id={`away-cover-${i}`}
                  label={`Who answers as ${x.duty}`}
                  people={people}
                  value={x.cover}
                  placeholder="Choose somebody"
                  onPick={(o) =>
                    setCovers((all) =>
                      all.map((y) => (y.duty === x.duty ? { ...y, cover: o?.id ?? null } : y)),
                    )
                  }
                />
              </span>
              <Button
                small
                look="quiet"
                aria-label={`Remove who answers as ${x.duty}`}
                onClick={() => setCovers((all) => all.filter((y) => y.duty !== x.duty))}
              >
                Remove
              </Button>
            </div>
          ))}
          {more.length > 0 && (
            <label className="block">
              <span className="mb-1 block text-sm">Somebody else in a duty</span>
              <Select
                value=""
                empty="No other"
                options={more}
                onPick={(duty) => duty && setCovers((all) => [...all, { duty, cover: null }])}
              />
            </label>
          )}
          <RadioGroup
            label="What is open when it begins"
            value={stays ? "stays" : "goes"}
            onPick={(v) => setStays(v === "stays")}
            options={[
              { id: "goes", label: "goes to whoever answers meanwhile" },
              { id: "stays", label: "stays, and waits" },
            ]}
          />
          <span>
            <Button type="submit" disabled={busy}>
              Enter
            </Button>
          </span>
        </form>
      )}
    </section>
  );
}

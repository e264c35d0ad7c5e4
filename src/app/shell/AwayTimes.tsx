"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Away } from "@/services";
import { Banner, Button, dateText } from "@/ui";
import { addAwayAction, removeAwayAction } from "../actions/people";
import { PersonPicker } from "./PersonPicker";
import { say } from "./say";

/** When somebody is away and who answers for them; entered by themselves or by those who keep people. */
export function AwayTimes({
  person,
  away,
  may,
  people,
  whose,
}: {
  person: string;
  away: Away[];
  may: boolean;
  people: { id: string; name: string; jobTitle: string }[];
  whose: string;
}) {
  const router = useRouter();
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [cover, setCover] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
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
              <span className="block text-sm text-soft">
                {a.cover ? `${a.cover} answers meanwhile` : "nobody answers meanwhile"}
              </span>
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
              const r = await addAwayAction(person, first, last, cover);
              setWrong(r.ok ? "" : r.sentence);
              if (!r.ok) return;
              say("Entered. Open tasks go to whoever covers when it begins.");
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

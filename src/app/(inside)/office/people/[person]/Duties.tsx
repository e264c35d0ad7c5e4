"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { PersonPage } from "@/services";
import { Banner, Button, Select } from "@/ui";
import { addDutyAction, removeDutyAction } from "../../../../actions/people";
import { say } from "../../../../shell/say";
import { WhereUsed } from "../../../../shell/WhereUsed";
import { useProof } from "../../../../shell/useProof";

/** Which duties somebody holds, for which site or department. */
export function Duties({
  person,
  duties,
  keep,
}: {
  person: string;
  duties: PersonPage["duties"];
  keep: { departments: string[]; dutyNames: string[]; dutySites: string[] } | null;
}) {
  const router = useRouter();
  const [duty, setDuty] = useState("");
  const [place, setPlace] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const [kind, name] = place === "" ? ["", ""] : [place.slice(0, 1), place.slice(2)];
  return (
    <section aria-labelledby="duties">
      <h2 id="duties" className="mb-2">
        Duties
      </h2>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {duties.length === 0 && <p className="text-soft">Holds no duty.</p>}
      <ul className="max-h-72 overflow-y-auto">
        {duties.map((d, i) => (
          <li key={d.record} className="flex items-center gap-2 border-t border-line py-1">
            <span className="min-w-0 flex-1">
              {d.duty}
              {d.place && <span className="text-soft">, {d.place}</span>}
              {d.more && <span className="text-sm text-faint"> {d.more}</span>}
            </span>
            {/* Said once of a duty, in however many places it is held. */}
            {duties.findIndex((x) => x.duty === d.duty) === i && (
              <WhereUsed of="duty" named={d.duty} name={d.duty} />
            )}
            {keep && (
              <Button
                small
                look="quiet"
                disabled={busy}
                aria-label={`Take ${d.duty}${d.place ? `, ${d.place}` : ""}`}
                onClick={() =>
                  start(async () => {
                    const r = await proved(() => removeDutyAction(d.record));
                    setWrong(r.ok ? "" : r.sentence);
                    if (r.ok) say(`${d.duty} is held no more.`);
                    router.refresh();
                  })
                }
              >
                Take
              </Button>
            )}
          </li>
        ))}
      </ul>
      {keep && (
        <form
          className="mt-3 grid gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            start(async () => {
              const r = await proved(() =>
                addDutyAction(person, duty, {
                  site: kind === "s" ? name : null,
                  department: kind === "d" ? name : null,
                }),
              );
              setWrong(r.ok ? "" : r.sentence);
              if (!r.ok) return;
              say(`${duty} is given.`);
              setDuty("");
              router.refresh();
            });
          }}
        >
          <label className="block">
            <span className="mb-1 block text-sm">Give a duty</span>
            <input
              className="input"
              list="duty-names"
              required
              value={duty}
              placeholder="Key holder"
              onChange={(e) => setDuty(e.target.value)}
            />
            <datalist id="duty-names">
              {keep.dutyNames.map((x) => (
                <option key={x} value={x} />
              ))}
            </datalist>
          </label>
          <label className="block">
            <span className="mb-1 block text-sm">For</span>
            <Select
              value={place}
              onPick={(value) => setPlace(value)}
              empty="everywhere"
              options={[
                { heading: "Sites", of: [...keep.dutySites.map((x) => ({ value: `s ${x}`, label: x }))] },
                {
                  heading: "Departments",
                  of: [...keep.departments.map((x) => ({ value: `d ${x}`, label: x }))],
                },
              ]}
            />
          </label>
          <span>
            <Button type="submit" disabled={busy}>
              Give it
            </Button>
          </span>
        </form>
      )}
    </section>
  );
}

"use client";
import { useState } from "react";
import { stuckSentence } from "@/core/words";
import { KINDS } from "@/kinds";
import { Button, Dialog, Table, whenText } from "@/ui";
import { useDraft } from "../parts";
import { calledIn } from "../draft/calledIn";
import { askedWhen, type Asked } from "./askedWhen";
import { TriedForAll } from "./TriedForAll";

/** Samples that stand beside each other; more would not be compared but scrolled through. */
const MOST_SAMPLES = 8;
const NAMED = 4;

/** All steps that ask people beside all samples: whom each asks, and until when. */
export function WhoIsAskedWhen() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button small look="quiet" onClick={() => setOpen(true)}>
        Who is asked when
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Who is asked when" wide>
        {open && (
          <>
            <AskedTable />
            <TriedForAll />
          </>
        )}
      </Dialog>
    </>
  );
}

function AskedTable() {
  const d = useDraft();
  const { samples } = d.definition;
  const release = d.turn?.release;
  if (!release || samples.length === 0)
    return (
      <p>
        For each sample it stands here whom every step asks, and until when. Keep a sample on the form sheet
        to begin with.
      </p>
    );
  const {
    rows,
    samples: shown,
    stops,
    outsiders,
  } = askedWhen(release, samples.slice(0, MOST_SAMPLES), d.facts);
  if (rows.length === 0) return <p>No step of this route asks anybody.</p>;
  const { zone } = d.facts.calendar(d.definition.calendar);
  const name = calledIn(d.factsData.people, { outsiders });
  return (
    <div className="grid gap-2">
      <p className="text-sm text-soft">
        When all agree at once, asked today. Nobody is asked where a sample does not come to the step.
        {samples.length > MOST_SAMPLES &&
          ` The first ${MOST_SAMPLES} of ${samples.length} samples are shown.`}
      </p>
      <Table head={["Step", ...shown.map((s) => ({ id: s.id, name: s.name, width: 170 }))]}>
        {rows.map((row) => (
          <tr key={row.id}>
            <td className="align-top">
              <span className="text-soft tabular-nums">{row.number}</span> {row.name}
            </td>
            {row.by.map((asked, i) => (
              <td key={shown[i]!.id} className="align-top">
                <Cell asked={asked} name={name} zone={zone} />
              </td>
            ))}
          </tr>
        ))}
        {stops.some((s) => s !== null) && (
          <tr>
            <td className="align-top text-soft">Further</td>
            {stops.map((s, i) => (
              <td key={shown[i]!.id} className="align-top text-sm text-soft">
                {s !== null && (s === "form" ? "its form is not complete" : "it is not followed further")}
              </td>
            ))}
          </tr>
        )}
      </Table>
    </div>
  );
}

function Cell({ asked, name, zone }: { asked: Asked; name(id: string): string; zone: string }) {
  if (asked === null)
    return (
      <span className="text-soft">
        <span aria-hidden>–</span>
        <span className="sr-only">does not come here</span>
      </span>
    );
  if ("stuck" in asked) return <span className="text-brick">{stuckSentence(asked.stuck, KINDS)}</span>;
  const more = asked.people.length - NAMED;
  return (
    <>
      {asked.people.slice(0, NAMED).map(name).join(", ")}
      {more > 0 && ` and ${more} more`}
      {asked.due !== null && <div className="text-sm text-soft">until {whenText(asked.due, zone)}</div>}
    </>
  );
}

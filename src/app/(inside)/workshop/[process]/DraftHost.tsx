"use client";
import { useEffect, useMemo, useState, type ReactNode } from "react";
import type { FactsData, SampleMail } from "@/core/form";
import { Banner, Button } from "@/ui";
import { WorkshopFrame, WorkshopProvider, type DraftKeeper, type DraftStart } from "@/workshop";
import { templatesOf } from "./templatesOf";
import { lookUpAction } from "../../../actions/requests";
import {
  askAtSampleAction,
  draftSinceAction,
  editDraftAction,
  keepLadderAction,
  keepLetterAction,
  mailsToTryAction,
  sampleOfMailAction,
  sampleValuesAction,
  startPreviewAction,
  stepPreviewAction,
} from "../../../actions/workshop";

type OfficeParts = DraftStart["office"];
/** A draft as the page has it: without its people where they are too many for a page. */
export type HostedStart = Omit<DraftStart, "office" | "facts"> & {
  office: Omit<OfficeParts, "data"> & { data: OfficeParts["data"] | null };
  facts: Omit<FactsData, "office"> & { office?: FactsData["office"] | undefined };
};
interface Fetched {
  data: OfficeParts["data"];
  people: FactsData["people"];
  office: FactsData["office"] | null;
}

/** Keeps one draft while its sheets are changed between; a page refreshed from outside does not disturb it. */
export function DraftHost({
  process,
  start,
  live,
  children,
}: {
  process: string;
  start: HostedStart;
  live: string | null;
  children: ReactNode;
}) {
  const [held] = useState(start);
  const [fetched, setFetched] = useState<Fetched | null>(null);
  const [failed, setFailed] = useState("");
  const [tries, setTries] = useState(0);
  const wants = held.office.data === null;
  useEffect(() => {
    if (!wants) return;
    let here = true;
    setFailed("");
    fetch(`/api/workshop/${process}/office`)
      .then(async (r) => {
        if (!r.ok) throw new Error(await r.text());
        return (await r.json()) as Fetched;
      })
      .then((f) => here && setFetched(f))
      .catch((e: Error) => here && setFailed(e.message));
    return () => {
      here = false;
    };
  }, [wants, process, tries]);
  const keeper = useMemo(
    (): DraftKeeper => ({
      save: (base, edits) => editDraftAction(process, base, edits),
      since: (version) => draftSinceAction(process, version),
      ask: (sample, step, data, question) => askAtSampleAction(process, sample, step, data, question),
      preview: (step, sample) => stepPreviewAction(process, step, sample),
      starting: (start) => startPreviewAction(process, start),
      values: (sample) => sampleValuesAction(process, sample),
      keepLetter: (letter) => keepLetterAction(process, letter),
      keepLadder: (ladder) => keepLadderAction(process, ladder),
      mails: () => mailsToTryAction(process),
      mail: (from) =>
        from instanceof File ? readMailFile(process, from) : sampleOfMailAction(process, from),
      documents: templatesOf(process),
      reload: () => window.location.reload(),
    }),
    [process],
  );
  const whole = useMemo(() => wholeOf(held, fetched), [held, fetched]);
  if (!whole)
    return failed ? (
      <Banner tone="bad">
        The people of the office could not be fetched. {failed}{" "}
        <Button small onClick={() => setTries((n) => n + 1)}>
          Try again
        </Button>
      </Banner>
    ) : (
      <p className="py-10 text-soft" role="status">
        Opening the draft…
      </p>
    );
  return (
    <WorkshopProvider start={whole} live={live} keeper={keeper} lookUp={lookUpAction}>
      <WorkshopFrame>{children}</WorkshopFrame>
    </WorkshopProvider>
  );
}

function wholeOf(held: HostedStart, fetched: Fetched | null): DraftStart | null {
  const data = held.office.data ?? fetched?.data;
  if (!data) return null;
  const { office, ...facts } = held.facts;
  const known = office ?? fetched?.office;
  return {
    ...held,
    office: { ...held.office, data },
    facts: {
      ...facts,
      people: fetched?.people ?? facts.people,
      ...(known ? { office: known } : {}),
    },
  };
}

const LOST = {
  ok: false,
  code: "unavailable",
  sentence: "The server could not be reached; try again in a moment.",
} as const;

async function readMailFile(process: string, file: File): ReturnType<DraftKeeper["mail"]> {
  try {
    const r = await fetch(`/api/workshop/${process}/mail?name=${encodeURIComponent(file.name)}`, {
      method: "POST",
      body: file,
    });
    const said: unknown = await r.json();
    return r.ok
      ? { ok: true, value: said as SampleMail }
      : { ok: false, code: "invalid", sentence: (said as { sentence: string }).sentence };
  } catch {
    return LOST;
  }
}

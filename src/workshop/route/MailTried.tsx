"use client";
import { useMemo, useRef, useState, type DragEvent } from "react";
import { factsFrom, sampleMailFacts, sampleMailFiles, type FormData, type SampleMail } from "@/core/form";
import { startKind } from "@/core/kinds";
import { filledByMail, mailStartProgram, takesMail } from "@/core/mail";
import type { Sample, Start } from "@/core/route";
import { KINDS } from "@/kinds";
import { classes, Menu, whenText } from "@/ui";
import type { Draft } from "../draft/draft";
import { newId, useDraft } from "../parts";

type Kept = { id: string; from: string; subject: string; at: number }[];

/** What a start comes to for the sample, where that is of a mail; and a way to make one of a mail. */
export function MailTried({ start }: { start: Start }) {
  const d = useDraft();
  const { sample, definition, edit } = d;
  const came = useMemo(() => (sample ? cameTo(d, start, sample) : null), [d, start, sample]);
  const [wrong, setWrong] = useState("");
  const [over, setOver] = useState(false);
  const [kept, setKept] = useState<Kept | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const take = async (from: string | File) => {
    const r = await d.mail(from).catch(() => null);
    if (!r?.ok) return setWrong(r?.sentence ?? "The server could not be reached; try again in a moment.");
    setWrong("");
    const made = sampleOf(d, start, r.value);
    if (edit({ op: "sample.put", after: definition.samples.at(-1)?.id ?? null, sample: made }))
      d.setSample(made.id);
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const [dropped] = e.dataTransfer.files;
    if (dropped) void take(dropped);
  };
  const fillAnew = () => {
    if (!sample || !came?.filled) return;
    const at = definition.samples.findIndex((s) => s.id === sample.id);
    edit({
      op: "sample.put",
      after: definition.samples[at - 1]?.id ?? null,
      sample: { ...sample, data: { ...sample.data, ...came.filled } },
    });
  };
  return (
    <div
      className={classes(
        "mt-2 text-sm leading-snug text-soft",
        over && "outline-2 outline-slate outline-dashed",
      )}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <span role="status">
        {came && <span className={came.tone}>{came.words} </span>}
        {came?.stale && (
          <button type="button" className="min-h-6 underline" onClick={fillAnew}>
            Fill it in anew
          </button>
        )}
      </span>{" "}
      <Menu
        align="start"
        trigger={
          <button
            type="button"
            className="min-h-6 underline"
            onFocus={() => kept ?? void d.mails().then((r) => setKept(r.ok ? r.value : []))}
          >
            Make a sample of a mail…
          </button>
        }
        groups={[
          {
            heading: "A mail that was kept as a file",
            items: [
              { id: "file", label: "Choose it, or drop it here (.eml)", onPick: () => file.current?.click() },
            ],
          },
          ...(kept && kept.length > 0
            ? [
                {
                  heading: "One that came",
                  items: kept.map((m) => ({
                    id: m.id,
                    label: `${m.subject || "(no subject)"}, from ${m.from}, ${whenText(m.at, "Europe/Dublin")}`,
                    onPick: () => void take(m.id),
                  })),
                },
              ]
            : []),
        ]}
      />
      <input
        ref={file}
        type="file"
        hidden
        accept=".eml,message/rfc822"
        aria-label="A mail kept as a file"
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          e.target.value = "";
          if (chosen) void take(chosen);
        }}
      />
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}

interface Came {
  words: string;
  tone: string;
  /** What it fills in; null where that cannot be told, or nothing is. */
  filled: FormData | null;
  /** Something else is filled in than the sample holds. */
  stale: boolean;
}
/** What the start does with the mail of a sample; null where it is of none. */
function cameTo(d: Draft, start: Start, sample: Sample): Came | null {
  const mail = sampleMailFacts(sample);
  const of = startKind(KINDS, start).ofMail?.(start);
  if (!mail || !of) return null;
  const program = mailStartProgram(of);
  const takes = takesMail(program, mail, d.facts);
  const said = `“${sample.name}”`;
  if (takes === false)
    return {
      words: `${said} would not start it: the condition does not hold.`,
      tone: "",
      filled: null,
      stale: false,
    };
  if (takes !== true)
    return {
      words: `${said}: it cannot be told. ${takes.why}`,
      tone: "text-brick",
      filled: null,
      stale: false,
    };
  const fills = filledByMail(program, mail, d.definition.fields, KINDS.fields, d.facts);
  if ("why" in fills)
    return { words: `${said}: ${fills.why}`, tone: "text-brick", filled: null, stale: false };
  const stale = Object.entries(fills.data).some(
    ([id, v]) => JSON.stringify(v) !== JSON.stringify(sample.data[id] ?? null),
  );
  const words = `${said} would start it${stale ? ", and begin otherwise than the sample holds" : ""}.`;
  return { words, tone: "", filled: fills.data, stale };
}

/** A sample of a mail, begun as the start would begin it; where that cannot be told, with nothing filled in. */
function sampleOf(d: Draft, start: Start, mail: SampleMail): Sample {
  const { samples, fields } = d.definition;
  const name = (mail.subject || mail.senderName || mail.sender || "A mail").slice(0, 60);
  const id = newId(name, (x) => samples.some((s) => s.id === x));
  const requester = d.sample?.requester ?? d.definition.owners[0] ?? "";
  const made: Sample = { id, name, requester, data: {}, mail };
  const of = startKind(KINDS, start).ofMail?.(start);
  const facts = factsFrom(
    { ...d.factsData, files: { ...d.factsData.files, ...sampleMailFiles([made]) } },
    d.facts,
    KINDS.fields,
  );
  const fills = of && filledByMail(mailStartProgram(of), sampleMailFacts(made)!, fields, KINDS.fields, facts);
  return { ...made, data: fills && "data" in fills ? fills.data : {} };
}

"use client";
import Link from "next/link";
import { Fragment, useId, useRef, useState, useTransition } from "react";
import type { RecordNote } from "@/services";
import { Banner, Button, whenText } from "@/ui";
import { leaveNoteAction, removeNoteAction } from "../../../../actions/records";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { say } from "../../../../shell/say";

const UNREACHED = "The server could not be reached. What you wrote is still here; try again in a moment.";
const list = (names: readonly string[]) => new Intl.ListFormat("en").format(names);

/** A few words left on a record, the newest first, and the place to leave more. */
export function Notes(p: {
  register: string;
  record: string;
  one: string;
  notes: readonly RecordNote[];
  zone: string;
}) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const [unmet, setUnmet] = useState("");
  const [working, start] = useTransition();
  const box = useRef<HTMLTextAreaElement>(null);
  const id = useId();
  const leave = () =>
    start(async () => {
      setWrong("");
      setUnmet("");
      const r = await leaveNoteAction(p.register, p.record, text).catch(() => null);
      if (!r?.ok) return setWrong(r?.sentence ?? UNREACHED);
      setText("");
      const { told, unseeing, several } = r.value;
      say(told.length > 0 ? `Your note is left, and ${list(told)} told.` : "Your note is left.");
      setUnmet(
        [
          unseeing.length > 0 ? `${list(unseeing)} may not see this ${p.one}, so nothing was told them.` : "",
          several.length > 0 ? `Several people are called ${list(several)}, so none of them was told.` : "",
        ]
          .filter(Boolean)
          .join(" "),
      );
    });
  const mention = (name: string) => {
    const at = box.current?.selectionStart ?? text.length;
    const before = text.slice(0, at);
    const gap = before === "" || /\s$/.test(before) ? "" : " ";
    setText(`${before}${gap}@${name} ${text.slice(at).trimStart()}`);
    box.current?.focus();
  };
  return (
    <section aria-labelledby={`${id}-h`} className="mb-6">
      <h2 id={`${id}-h`} className="mb-2">
        Notes
      </h2>
      <form
        className="mb-3 grid gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          leave();
        }}
      >
        {wrong && <Banner tone="bad">{wrong}</Banner>}
        {unmet && <Banner tone="info">{unmet}</Banner>}
        <label htmlFor={id} className="sr-only">
          A note on this {p.one}
        </label>
        <textarea
          id={id}
          ref={box}
          className="input"
          rows={2}
          maxLength={4000}
          placeholder={`A few words on this ${p.one}; @ and a name tells somebody`}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) leave();
          }}
        />
        <div className="flex flex-wrap items-center gap-2">
          <Button small type="submit" disabled={working || text.trim() === ""}>
            {working ? "Leaving it…" : "Leave this note"}
          </Button>
          <div className="w-52">
            <PersonPicker
              id={`${id}-who`}
              label="Mention somebody"
              value={null}
              placeholder="Mention somebody…"
              onPick={(who) => who && mention(who.name)}
            />
          </div>
        </div>
      </form>
      {p.notes.length === 0 && <p className="text-soft">None yet.</p>}
      <ol>
        {p.notes.map((n) => (
          <li key={n.id} className="border-t border-line py-2">
            <p className="text-sm text-soft">
              {n.by_name && <span className="font-medium text-ink">{n.by_name}</span>}
              {n.request_number && (
                <Link className="link" href={`/requests/${n.request_number}`} prefetch={false}>
                  {n.request_number}
                </Link>
              )}
              , {whenText(n.at, p.zone)}
              {n.mayRemove && <Remove {...p} note={n} />}
            </p>
            <p className="whitespace-pre-wrap">
              <Mentioning text={n.body} names={n.mentioned} />
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** A text with the names of those it mentions set apart. */
function Mentioning({ text, names }: { text: string; names: readonly string[] }) {
  if (names.length === 0) return text;
  const escaped = [...names]
    .sort((a, b) => b.length - a.length)
    .map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"));
  const parts = text.split(new RegExp(`(@(?:${escaped.join("|")}))(?![\\p{L}\\p{N}])`, "iu"));
  return parts.map((part, i) => (
    <Fragment key={i}>{i % 2 === 1 ? <span className="font-medium text-moss">{part}</span> : part}</Fragment>
  ));
}

function Remove({ register, record, note }: { register: string; record: string; note: RecordNote }) {
  const [wrong, setWrong] = useState("");
  const [working, start] = useTransition();
  return (
    <>
      <button
        type="button"
        className="ml-3 underline"
        aria-label={`Take away: ${note.body.slice(0, 40)}`}
        disabled={working}
        onClick={() =>
          start(async () => {
            const r = await removeNoteAction(register, record, note.id).catch(() => null);
            if (!r?.ok)
              return setWrong(r?.sentence ?? "The server could not be reached. Try again in a moment.");
            say("The note is taken away.");
          })
        }
      >
        take away
      </button>
      {wrong && (
        <span role="alert" className="ml-2 text-brick">
          {wrong}
        </span>
      )}
    </>
  );
}

"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { PersonPage } from "@/services";
import { Banner, Button, Dialog } from "@/ui";
import {
  closePersonAction,
  openPersonAction,
  passwordLinkAction,
  setRightsAction,
} from "../../../../actions/people";
import { say } from "../../../../shell/say";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { useProof } from "../../../../shell/useProof";
import { Erase } from "./Erase";

type Keep = NonNullable<PersonPage["keep"]>;

/** How somebody signs in, which rights they have, and what happens to all they have when they leave. */
export function Account({
  person,
  me,
  rights,
  work,
  people,
}: {
  person: { id: string; name: string; active: boolean };
  me: boolean;
  rights: boolean;
  work: Keep["work"];
  people: Keep["people"];
}) {
  const router = useRouter();
  const [link, setLink] = useState<{ url: string; days: number } | null>(null);
  const [wrong, setWrong] = useState("");
  const [closing, setClosing] = useState(false);
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const deed = (run: () => Promise<{ ok: true } | { ok: false; sentence: string }>, said: string) =>
    start(async () => {
      const r = await run();
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      say(said);
      router.refresh();
    });
  return (
    <section aria-labelledby="account" className="mt-9">
      <h2 id="account" className="mb-2">
        Account
      </h2>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {link && (
        <Banner tone="info">
          Give this link to {person.name}; it works once, for {link.days} days, and is not shown again:{" "}
          <code className="font-mono break-all select-all">{link.url}</code>
        </Banner>
      )}
      <div className="flex flex-wrap gap-2">
        {person.active && (
          <Button
            disabled={busy}
            onClick={() =>
              start(async () => {
                const r = await proved(() => passwordLinkAction(person.id));
                if (!r.ok) return setWrong(r.sentence);
                setWrong("");
                setLink({
                  url: `${location.origin}/set-password?token=${r.value.token}`,
                  days: r.value.hours / 24,
                });
              })
            }
          >
            Make a link to set a password
          </Button>
        )}
        {person.active && (
          <Button
            disabled={busy}
            onClick={() =>
              deed(
                () => proved(() => setRightsAction(person.id, !rights)),
                rights ? "The rights are taken." : "The rights are given.",
              )
            }
          >
            {rights ? "Take the rights of the office" : "Give the rights of the office"}
          </Button>
        )}
        {person.active && !me && (
          <Button look="brick" disabled={busy} onClick={() => setClosing(true)}>
            Close this account…
          </Button>
        )}
        <Erase person={person} proved={proved} />
        {!person.active && (
          <Button
            disabled={busy}
            onClick={() =>
              deed(() => proved(() => openPersonAction(person.id)), "The account is open again.")
            }
          >
            Open this account again
          </Button>
        )}
      </div>
      {person.active && <Work work={work} name={person.name} />}
      {closing && (
        <Closing
          person={person}
          work={work}
          people={people}
          onClose={() => setClosing(false)}
          onDone={(said) => {
            setClosing(false);
            setWrong("");
            say(said);
            router.refresh();
          }}
          proved={proved}
        />
      )}
    </section>
  );
}

const several = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

/** What somebody has just now. */
function Work({ work, name }: { work: Keep["work"]; name: string }) {
  const rest = [
    work.requests > 0 &&
      several(work.requests, "request of theirs is under way", "requests of theirs are under way"),
    work.manages.length > 0 && `manages ${work.manages.join(", ")}`,
    work.owns.length > 0 && `owns ${work.owns.map((o) => `${o.key}${o.alone ? " (alone)" : ""}`).join(", ")}`,
  ].filter(Boolean);
  return (
    <div className="mt-5">
      <h3 className="mb-1">What waits for {name}</h3>
      {work.tasks.length === 0 ? (
        <p className="text-soft">No open tasks.</p>
      ) : (
        <ul>
          {work.tasks.slice(0, 10).map((t) => (
            <li key={`${t.number}/${t.task}`} className="border-t border-line py-1">
              <Link className="link" href={`/requests/${t.number}`} prefetch={false}>
                {t.number}
              </Link>{" "}
              {t.title}: {t.step}
            </li>
          ))}
        </ul>
      )}
      {work.tasks.length > 10 && <p className="text-soft">and {work.tasks.length - 10} more</p>}
      {rest.length > 0 && <p className="mt-1 text-soft">{rest.join("; ")}.</p>}
    </div>
  );
}

function Closing({
  person,
  work,
  people,
  onClose,
  onDone,
  proved,
}: {
  person: { id: string; name: string };
  work: Keep["work"];
  people: Keep["people"];
  onClose(): void;
  onDone(said: string): void;
  proved: ReturnType<typeof useProof>["proved"];
}) {
  const [to, setTo] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const alone = work.owns.filter((o) => o.alone);
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={`Close the account of ${person.name}`}>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <p className="mb-3">
        They are signed out at once, and their keys stop for good. What they did stays as it is. They have{" "}
        {several(work.tasks.length, "open task", "open tasks")}
        {work.manages.length > 0 && `, manage ${several(work.manages.length, "person", "people")}`}
        {alone.length > 0 && `, and own ${alone.map((o) => o.key).join(", ")} alone`}.
      </p>
      <label htmlFor="closing-to" className="mb-1 block">
        Who takes all of it over
      </label>
      <PersonPicker
        id="closing-to"
        label="Who takes all of it over"
        people={people}
        value={to}
        placeholder="Nobody: each step asks whom its rules find"
        onPick={(o) => setTo(o?.id ?? null)}
      />
      <p className="mt-2 mb-4 text-sm text-soft">
        {to === null
          ? `Their duties end, whom they manage goes to their own manager${alone.length > 0 ? ", and processes they own alone are left without an owner until you name one" : ""}.`
          : "Tasks, people, duties, covers and processes owned alone go to them in one action."}
      </p>
      <div className="flex gap-2">
        <Button
          look="brick"
          disabled={busy}
          onClick={() =>
            start(async () => {
              const r = await proved(() => closePersonAction(person.id, to));
              if (!r.ok) return setWrong(r.sentence);
              const { tasks, waiting } = r.value;
              onDone(
                waiting
                  ? `The account is closed; ${tasks} tasks are moving on.`
                  : `The account is closed; ${several(tasks, "task has", "tasks have")} moved on.`,
              );
            })
          }
        >
          {busy ? "Closing…" : "Close the account"}
        </Button>
        <Button onClick={onClose}>Leave it open</Button>
      </div>
    </Dialog>
  );
}

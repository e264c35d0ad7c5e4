"use client";
import { useId, useState } from "react";
import type { Way } from "@/services";
import { Button, Dialog, Field, RadioGroup } from "@/ui";
import type { CommandInput } from "../../../actions/requests";
import { PersonPicker } from "../../../shell/PersonPicker";

/** Something done with a request that asks for a word first. */
export type Deed =
  | { do: "withdraw" }
  | { do: "cancel" }
  | { do: "remind"; task: string; who: string }
  | { do: "reassign"; task: string; who: string }
  | { do: "change limit"; task: string; step: string; due: number | null }
  | { do: "name"; token: string; step: string }
  | { do: "skip"; token: string; step: string; ways: readonly Way[] };

interface Says {
  title: string;
  lead: string;
  button: string;
  bad?: true;
  /** Whether the note must say why. */
  why: boolean;
  keep: string;
}

function wordsOf(deed: Deed, number: string): Says {
  switch (deed.do) {
    case "withdraw":
    case "cancel": {
      const verb = deed.do === "cancel" ? "Cancel" : "Withdraw";
      return {
        title: `${verb} ${number}`,
        lead: "The request ends here; open tasks leave the desks. What was written to registers before stays as it is. This cannot be taken back.",
        button: `${verb} the request`,
        bad: true,
        why: false,
        keep: "Keep it going",
      };
    }
    case "remind":
      return {
        title: `Remind ${deed.who}`,
        lead: "They get a notice that this waits for them. The limit stays as it is.",
        button: "Remind",
        why: false,
        keep: "Leave it",
      };
    case "reassign":
      return {
        title: "Hand over",
        lead: `Somebody else answers instead of ${deed.who}. The limit stays as it is.`,
        button: "Hand over",
        why: true,
        keep: "Leave it",
      };
    case "change limit":
      return {
        title: `Another limit for “${deed.step}”`,
        lead: "It counts for everybody who is asked here; reminders and the rest of the ladder move with it.",
        button: "Set the limit",
        why: true,
        keep: "Leave it",
      };
    case "name":
      return {
        title: `Ask somebody at “${deed.step}”`,
        lead: "They are asked as the step would have asked; who is away is covered for, and nobody decides their own request.",
        button: "Ask them",
        why: true,
        keep: "Leave it",
      };
    case "skip":
      return {
        title: `Go on without “${deed.step}”`,
        lead:
          deed.ways.length > 0
            ? "This step decides how the request goes on. Say which way, and why; it stands on the trail under your name."
            : "The request goes on behind this step. Say why; it stands on the trail under your name.",
        button: "Go on",
        why: true,
        keep: "Leave it",
      };
  }
}

export function DeedDialog({
  deed,
  number,
  zone,
  busy,
  onSend,
  onClose,
}: {
  deed: Deed | null;
  number: string;
  zone: string;
  busy: boolean;
  onSend(input: CommandInput, done: string): void;
  onClose(): void;
}) {
  const id = useId();
  const [note, setNote] = useState("");
  const [to, setTo] = useState<{ id: string; name: string } | null>(null);
  const [until, setUntil] = useState("");
  const [way, setWay] = useState<string | null>(null);
  if (!deed) return null;
  const says = wordsOf(deed, number);
  const picks = deed.do === "reassign" || deed.do === "name";
  const missing = [
    ...(picks && !to ? ["pick somebody"] : []),
    ...(deed.do === "change limit" && until === "" ? ["say until when"] : []),
    ...(deed.do === "skip" && deed.ways.length > 0 && way === null ? ["choose a way"] : []),
    ...(says.why && note.trim() === "" ? ["say why"] : []),
  ];
  const send = () => {
    switch (deed.do) {
      case "withdraw":
        return onSend({ type: "withdraw", note }, "Withdrawn.");
      case "cancel":
        return onSend({ type: "cancel", note }, "Cancelled.");
      case "remind":
        return onSend({ type: "remind", task: deed.task, note }, `${deed.who}: reminded.`);
      case "reassign":
        return onSend({ type: "reassign", task: deed.task, to: to!.id, note }, `It is with ${to!.name} now.`);
      case "name":
        return onSend({ type: "name", token: deed.token, to: to!.id, note }, `${to!.name} is asked.`);
      case "change limit":
        return onSend({ type: "change limit", task: deed.task, until, note }, "The limit is changed.");
      case "skip":
        return onSend({ type: "skip", token: deed.token, way, note }, "It went on.");
    }
  };
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={says.title}>
      <p className="mb-3 text-soft">{says.lead}</p>
      <div className="grid gap-3">
        {picks && (
          <div>
            <p className="mb-1">To</p>
            <PersonPicker
              id={`${id}-to`}
              label="To"
              value={to?.id ?? null}
              placeholder="Choose…"
              onPick={(p) => setTo(p && { id: p.id, name: p.name })}
            />
          </div>
        )}
        {deed.do === "change limit" && (
          <Field label="Until" help={`By the clock in ${zone}.`}>
            {(p) => (
              <input
                {...p}
                type="datetime-local"
                className="input max-w-64"
                value={until}
                onChange={(e) => setUntil(e.target.value.slice(0, 16))}
              />
            )}
          </Field>
        )}
        {deed.do === "skip" && deed.ways.length > 0 && (
          <RadioGroup
            label="How it goes on"
            value={way}
            options={deed.ways.map((w) => ({ id: w.id, label: w.label }))}
            onPick={setWay}
          />
        )}
        <Field label={deed.do === "remind" ? "A word to them" : "Why"}>
          {(p) => (
            <textarea
              {...p}
              rows={2}
              className="input"
              value={note}
              onChange={(e) => setNote(e.target.value)}
              placeholder="Everybody who sees the request can read it"
            />
          )}
        </Field>
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <Button look={says.bad ? "brick" : "main"} disabled={busy || missing.length > 0} onClick={send}>
          {says.button}
        </Button>
        <Button onClick={onClose}>{says.keep}</Button>
        {missing.length > 0 && (
          <p className="text-sm text-soft" role="status">
            First {missing.join(" and ")}.
          </p>
        )}
      </div>
    </Dialog>
  );
}

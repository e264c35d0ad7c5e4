"use client";
import { Megaphone } from "lucide-react";
import { peopleFound } from "@/core/engine";
import { ANY, TEXT } from "@/core/expression";
import {
  Chip,
  FormulaCell,
  isEmptyRule,
  LetterChoice,
  RuleEditor,
  useRuleText,
  SampleFinds,
  StepName,
  TemplateCell,
  useDraft,
  useSampleAt,
  useSettled,
} from "@/workshop/parts";
import { RadioGroup } from "@/ui";
import type { StepOf } from "@/core/route";
import type { ListHeadProps, SentenceProps, StepView } from "../view";
import type { TellMail } from "./shape";

type Step = StepOf<"tell">;

function messageText({ subject, on, mail, letter }: Step, called: (letter: string) => string): string {
  const said = mail && letter !== undefined ? `letter “${called(letter)}”` : `“${subject}”`;
  return `${said}${on ? `, and a note on ${on}` : ""}`;
}

/** Formulas of a mail, in the order in which a letter names them. */
const PARTS = [
  { place: "to", says: "Also to", example: "an address or a person; e.g. Borrower.Email" },
  { place: "copy", says: "Copy to", example: "nobody; they all see each other then" },
  { place: "blind", says: "Copy to, unseen", example: "nobody" },
  { place: "replyTo", says: "Replies go to", example: "the mailbox, and so to the request" },
  { place: "files", says: "Files", example: "none; a field, or a column of lines" },
] as const;

function howText({ mail, chat, own }: Step): string {
  if (chat) return chat.room ? `in the chat room ${chat.room}` : "in chat";
  if (own) return "as each of them likes it";
  if (!mail) return "by a notice";
  const more = PARTS.filter((p) => mail[p.place]).map((p) => `${p.says.toLowerCase()} ${mail[p.place]}`);
  return ["by mail", ...more].join(", ");
}

function Sentence({ step, scope }: SentenceProps<"tell">) {
  const d = useDraft();
  const settled = useSettled(step);
  const at = useSampleAt();
  const set = (patch: Partial<Step>) => void d.edit({ op: "step.set", id: step.id, patch });
  const ruleSaid = useRuleText();
  const people = d.turn && at && settled ? peopleFound(d.turn, at, "who", settled.who) : null;
  const found = people && !("go" in people) ? people.map((p) => d.factsData.people[p]?.name ?? p) : people;
  const ownText = (
    <div className="grid gap-2">
      <span className="text-sm text-soft" aria-hidden>
        Subject
      </span>
      <TemplateCell
        label="Subject"
        value={step.subject}
        scope={scope}
        onCommit={(subject) => set({ subject })}
      />
      <span className="text-sm text-soft" aria-hidden>
        Text
      </span>
      <TemplateCell
        label="Text"
        lines={8}
        value={step.text}
        scope={scope}
        onCommit={(text) => set({ text })}
      />
    </div>
  );
  return (
    <>
      <StepName step={step} />
      <Chip text={ruleSaid(step.who)} label="Who is told" empty={isEmptyRule(step.who)} width={400}>
        {() => (
          <div className="grid gap-2">
            <RuleEditor
              id={`tell-${step.id}`}
              rule={step.who}
              scope={scope}
              onChange={(who) => set({ who })}
            />
            <SampleFinds found={found} />
          </div>
        )}
      </Chip>{" "}
      <Chip text={howText(step)} label="How" width={460}>
        {() => <How step={step} scope={scope} />}
      </Chip>{" "}
      <Chip
        text={messageText(step, (id) => d.definition.letters?.find((l) => l.id === id)?.name ?? id)}
        label="Message"
        width={460}
      >
        {() => (
          <div className="grid gap-2">
            {step.mail ? (
              <LetterChoice
                id={`letter-${step.id}`}
                letter={step.letter}
                onPick={(letter) =>
                  void d.edit({ op: "step.set", id: step.id, patch: { letter: letter ?? null } })
                }
              >
                {ownText}
              </LetterChoice>
            ) : (
              ownText
            )}
            <span className="text-sm text-soft" aria-hidden>
              Left as a note, too, on the record (a list: on each)
            </span>
            <FormulaCell
              label="The record a note is left on"
              placeholder="no record; or a field or step, e.g. Object"
              value={step.on ?? ""}
              scope={scope}
              wanted={ANY}
              onCommit={(on) =>
                void d.edit({ op: "step.set", id: step.id, patch: on ? { on } : { on: null } })
              }
            />
          </div>
        )}
      </Chip>
    </>
  );
}

type Way = "notice" | "mail" | "chat" | "own";
const wayOf = ({ mail, chat, own }: Step): Way => {
  if (mail) return "mail";
  if (chat) return "chat";
  return own ? "own" : "notice";
};

/** By a notice, by mail or in chat, with what belongs to that. */
function How({ step, scope }: SentenceProps<"tell">) {
  const d = useDraft();
  const { mail } = step;
  const put = (to: TellMail | null) => void d.edit({ op: "step.set", id: step.id, patch: { mail: to } });
  const way = wayOf(step);
  const room = d.office.data.chat;
  const pick = (next: Way) =>
    void d.edit({
      op: "step.set",
      id: step.id,
      patch: {
        mail: next === "mail" ? (mail ?? {}) : null,
        chat: next === "chat" ? (step.chat ?? {}) : null,
        own: next === "own" ? true : null,
      },
    });
  const change = (patch: { [P in keyof TellMail]?: TellMail[P] | undefined }) => {
    const next = Object.entries({ ...mail, ...patch }).filter(([, v]) => v !== undefined && v !== "");
    put(Object.fromEntries(next) as TellMail);
  };
  const box = d.office.data.mailboxes.find((m) => m.address === d.definition.mailbox);
  return (
    <div className="grid gap-2">
      <RadioGroup
        label="How it reaches them"
        value={way}
        onPick={(next) => pick(next as Way)}
        options={[
          { id: "notice", label: "by a notice on their screen" },
          { id: "mail", label: "by mail" },
          ...(room !== undefined || step.chat ? [{ id: "chat", label: `in ${room ?? "chat"}` }] : []),
          {
            id: "own",
            label: "as each of them likes it",
            help: "by a notice, and by whatever else they have chosen on the page with their name",
          },
        ]}
      />
      {step.chat && (
        <div className="grid gap-1">
          <span className="text-sm text-soft" aria-hidden>
            Room
          </span>
          <FormulaCell
            label="Room"
            placeholder='none: each of them; or a room&apos;s name, e.g. "acquisitions"'
            value={step.chat.room ?? ""}
            scope={scope}
            wanted={TEXT}
            onCommit={(text) =>
              void d.edit({
                op: "step.set",
                id: step.id,
                patch: { chat: text.trim() ? { room: text } : {} },
              })
            }
          />
          <p className="text-sm text-soft">
            {step.chat.room
              ? "Everybody in the room reads it."
              : "Each gets a message of their own, by the account they have tied to their name."}
          </p>
        </div>
      )}
      {mail && (
        <>
          {PARTS.map(({ place, says, example }) => (
            <div key={place} className="grid gap-1">
              <span className="text-sm text-soft" aria-hidden>
                {says}
              </span>
              <FormulaCell
                label={says}
                placeholder={example}
                value={mail[place] ?? ""}
                scope={scope}
                wanted={ANY}
                onCommit={(t) => change({ [place]: t.trim() || undefined })}
              />
            </div>
          ))}
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-1"
              checked={mail.replies === true}
              onChange={(e) => change({ replies: e.target.checked || undefined })}
            />
            <span>
              formulas read what is answered{" "}
              <span className="text-sm text-soft">
                (as {step.name}.reply, with .by, .at and .files; a Wait can wait for it)
              </span>
            </span>
          </label>
          <label className="flex items-start gap-2">
            <input
              type="checkbox"
              className="mt-1"
              checked={mail.again === true}
              onChange={(e) => change({ again: e.target.checked || undefined })}
            />
            <span>
              send it once more where it cannot be known whether it arrived{" "}
              <span className="text-sm text-soft">(somebody may get it twice)</span>
            </span>
          </label>
          <p className="border-t border-line pt-2 text-sm text-soft">
            {mail.copy || mail.blind
              ? "All get one mail, and see who else does. "
              : "Each gets a mail of their own. "}
            {box
              ? `From ${box.name}, ${box.address}.`
              : "The process has no mailbox yet: choose one under About."}
          </p>
        </>
      )}
    </div>
  );
}

/** The way for what comes back. */
function ListHead({ list }: ListHeadProps<"tell">) {
  return (
    <span className="text-sm text-soft">
      if it cannot be delivered{list.steps.length > 0 ? ", beside what follows" : ": its owners are told"}
    </span>
  );
}

export const view: StepView<"tell"> = { icon: Megaphone, Sentence, ListHead };

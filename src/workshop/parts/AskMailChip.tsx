"use client";
import type { Scope } from "@/core/expression";
import { isSaidInALine } from "@/core/form";
import { accessAt, asksBy, type AskMail, type Asks } from "@/core/route";
import { KINDS } from "@/kinds";
import { RadioGroup } from "@/ui";
import { useDraft } from "../draft/DraftProvider";
import { Chip } from "./Chip";
import { LetterChoice } from "./LetterChoice";
import { TemplateCell } from "./TemplateCell";

/** A first one, called as its request is. */
const fresh = (title: string): AskMail => ({
  subject: title.trim() ? `{Request.number}: ${title}` : "{Request.number}",
  text: "",
  link: "signed in",
  reply: true,
});

function chipText(mail: AskMail | undefined): string {
  if (!mail) return "told on screen";
  const by = asksBy(mail);
  const ways = by.mail ? [...(mail.link ? ["a link"] : []), ...(mail.reply ? ["a reply"] : [])] : [];
  const answered = [...ways, ...(by.chat ? ["a press in chat"] : [])];
  return `told ${TOLD[mail.by ?? "mail"]} too${answered.length > 0 ? `, answered by ${answered.join(" or ")}` : ""}`;
}
const TOLD = { mail: "by mail", chat: "in chat", "mail and chat": "by mail and in chat" } as const;

/** Whether those asked are written to, what they are written, and how they may answer from there. */
export function AskMailChip({ step, scope }: { step: { id: string } & Asks; scope: Scope }) {
  const d = useDraft();
  const mail = step.byMail;
  const put = (byMail: AskMail | null) =>
    void d.edit({ op: "step.set", id: step.id, patch: { byMail } as Record<string, unknown> });
  const set = (patch: { [P in keyof AskMail]?: AskMail[P] | undefined }) => {
    const next = Object.entries({ ...mail, ...patch }).filter(([, v]) => v !== undefined);
    put(Object.fromEntries(next) as unknown as AskMail);
  };
  const by = mail ? asksBy(mail) : { mail: false, chat: false };
  const room = d.office.data.chat;
  const box = d.office.data.mailboxes.find((m) => m.address === d.definition.mailbox);
  return (
    <>
      {", "}
      <Chip text={chipText(mail)} label="How they are told" width={480}>
        {() => (
          <div className="grid gap-3">
            <RadioGroup
              label="Those asked are told"
              value={mail ? (mail.by ?? "mail") : "screen"}
              onPick={(v) => {
                if (v === "screen") return put(null);
                const { by: _, ...kept } = mail ?? fresh(d.definition.title);
                put(v === "mail" ? kept : { ...kept, by: v as NonNullable<AskMail["by"]> });
              }}
              options={[
                { id: "screen", label: "on their screens" },
                { id: "mail", label: "on their screens and by mail" },
                ...(room !== undefined || mail?.by
                  ? [
                      { id: "chat", label: `on their screens and in ${room ?? "chat"}` },
                      { id: "mail and chat", label: "by all three" },
                    ]
                  : []),
              ]}
            />
            {mail && (
              <>
                <LetterChoice
                  id={`letter-${step.id}`}
                  letter={mail.letter}
                  onPick={(letter) => set({ letter })}
                >
                  <div className="grid gap-1">
                    <span className="text-sm text-soft" aria-hidden>
                      Subject
                    </span>
                    <TemplateCell
                      label="Subject of the message"
                      value={mail.subject}
                      scope={scope}
                      onCommit={(subject) => set({ subject })}
                    />
                    <span className="text-sm text-soft" aria-hidden>
                      What they need to know to answer
                    </span>
                    <TemplateCell
                      label="Text of the message"
                      lines={6}
                      value={mail.text}
                      scope={scope}
                      onCommit={(text) => set({ text })}
                    />
                  </div>
                </LetterChoice>
                {by.chat && <FilledThere mail={mail} step={step.id} onPick={(fills) => set({ fills })} />}
                {by.mail && (
                  <>
                    <RadioGroup
                      label="Answered by a link, after a press on the page it opens"
                      value={mail.link ?? "none"}
                      onPick={(v) => set({ link: v === "none" ? undefined : (v as AskMail["link"]) })}
                      options={[
                        { id: "signed in", label: "by whoever is signed in as the one asked" },
                        { id: "free", label: "by whoever has the mail, without signing in" },
                        { id: "none", label: "not by a link" },
                      ]}
                    />
                    <label className="flex items-start gap-2">
                      <input
                        type="checkbox"
                        className="mt-1 size-4 accent-[var(--moss)]"
                        checked={mail.reply === true}
                        onChange={(e) => set({ reply: e.target.checked || undefined })}
                      />
                      <span>
                        answered by a reply{" "}
                        <span className="text-sm text-soft">
                          (its first line is an answer, or one of the words said there)
                        </span>
                      </span>
                    </label>
                  </>
                )}
                <p className="border-t border-line pt-2 text-sm text-soft">
                  The answers, what each leads to and the limit are added by themselves.{" "}
                  {by.chat &&
                    "In chat each answer is a button; once somebody has pressed, it says what and who. "}
                  {by.mail &&
                    (box
                      ? `From ${box.name}, ${box.address}.`
                      : "The process has no mailbox yet: choose one under About.")}
                </p>
              </>
            )}
          </div>
        )}
      </Chip>
    </>
  );
}

/** The fields that are filled in in chat beside the answer: those that are at this step, and can be said in a line. */
function FilledThere({
  mail,
  step,
  onPick,
}: {
  mail: AskMail;
  step: string;
  onPick(fills: string[] | undefined): void;
}) {
  const d = useDraft();
  const access = accessAt(d.definition, step);
  const fields = d.definition.fields.filter(
    (f) => access(f.id) === "edit" && !f.worked && isSaidInALine(KINDS.fields[f.kind]),
  );
  const chosen = mail.fills ?? [];
  const offered = fields.filter((f) => chosen.includes(f.id) || fields.length <= MOST_OFFERED);
  if (offered.length === 0) return null;
  return (
    <fieldset>
      <legend className="mb-1">Filled in there, beside the answer</legend>
      {offered.map((f) => (
        <label key={f.id} className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-[var(--moss)]"
            checked={chosen.includes(f.id)}
            onChange={(e) => {
              const next = e.target.checked ? [...chosen, f.id] : chosen.filter((id) => id !== f.id);
              onPick(next.length > 0 ? next : undefined);
            }}
          />
          {f.name}
        </label>
      ))}
    </fieldset>
  );
}
/** More than these are no short form any more. */
const MOST_OFFERED = 30;

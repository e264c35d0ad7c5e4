"use client";
import type { Scope } from "@/core/expression";
import type { AskMail, Asks } from "@/core/route";
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
  const ways = [...(mail.link ? ["a link"] : []), ...(mail.reply ? ["a reply"] : [])];
  return `told by mail too${ways.length > 0 ? `, answered by ${ways.join(" or ")}` : ""}`;
}

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
  const box = d.office.data.mailboxes.find((m) => m.address === d.definition.mailbox);
  return (
    <>
      {", "}
      <Chip text={chipText(mail)} label="How they are told" width={480}>
        {() => (
          <div className="grid gap-3">
            <RadioGroup
              label="Those asked are told"
              value={mail ? "mail" : "screen"}
              onPick={(v) => put(v === "mail" ? (mail ?? fresh(d.definition.title)) : null)}
              options={[
                { id: "screen", label: "on their screens" },
                { id: "mail", label: "on their screens and by mail" },
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
                      label="Subject of the mail"
                      value={mail.subject}
                      scope={scope}
                      onCommit={(subject) => set({ subject })}
                    />
                    <span className="text-sm text-soft" aria-hidden>
                      What they need to know to answer
                    </span>
                    <TemplateCell
                      label="Text of the mail"
                      lines={6}
                      value={mail.text}
                      scope={scope}
                      onCommit={(text) => set({ text })}
                    />
                  </div>
                </LetterChoice>
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
                <p className="border-t border-line pt-2 text-sm text-soft">
                  The answers, what each leads to and the limit are added by themselves.{" "}
                  {box
                    ? `From ${box.name}, ${box.address}.`
                    : "The process has no mailbox yet: choose one under About."}
                </p>
              </>
            )}
          </div>
        )}
      </Chip>
    </>
  );
}

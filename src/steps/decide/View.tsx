"use client";
import { Scale } from "lucide-react";
import {
  AnewChip,
  AnewChoice,
  AskMailChip,
  Chip,
  LimitChip,
  OffersChip,
  StepName,
  TextCell,
  ToneSelect,
  useDraft,
  WayOnChip,
  WhoChip,
} from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";

function Sentence({ step, scope }: SentenceProps<"decide">) {
  return (
    <>
      <StepName step={step} />
      <WhoChip step={step} scope={scope} /> answers within <LimitChip step={step} scope={scope} />
      <OffersChip step={step} scope={scope} />
      <AskMailChip step={step} scope={scope} />
    </>
  );
}

function ListHead({ step, list: answer }: ListHeadProps<"decide">) {
  const d = useDraft();
  const set = (patch: Record<string, unknown>) =>
    d.edit({ op: "list.set", step: step.id, list: answer.id, patch });
  const box = "flex items-center gap-2 text-sm";
  return (
    <span className="flex flex-wrap items-baseline gap-x-1.5">
      <Chip text={answer.label} label="Answer">
        {() => (
          <div className="grid gap-2">
            <TextCell
              className="input"
              autoFocus
              aria-label="Words of the answer"
              value={answer.label}
              onCommit={(t) => (t.trim() ? set({ label: t.trim() }) : false)}
            />
            {step.byMail?.reply && (
              <div className="grid gap-1 text-sm">
                <span className="text-soft" aria-hidden>
                  Words that mean it in a reply, beside its own
                </span>
                <TextCell
                  className="input"
                  aria-label="Words that mean it in a reply, beside its own"
                  placeholder="yes, ok, agreed"
                  value={answer.words ?? ""}
                  onCommit={(t) => void set({ words: t.trim() || null })}
                />
              </div>
            )}
            <ToneSelect value={answer.tone} onChange={(tone) => set({ tone })} />
            <label className={box}>
              <input
                type="checkbox"
                className="size-4 accent-[var(--moss)]"
                checked={answer.note === "must"}
                onChange={(e) => set({ note: e.target.checked ? "must" : null })}
              />{" "}
              needs a note that says why
            </label>
            {step.who.how !== "one" && !answer.returns && (
              <label className={box}>
                <input
                  type="checkbox"
                  className="size-4 accent-[var(--moss)]"
                  checked={answer.abstains ?? false}
                  onChange={(e) => set({ abstains: e.target.checked || null })}
                />{" "}
                abstains: it is no vote, and counts only where nobody has one
              </label>
            )}
            <label className={box}>
              <input
                type="checkbox"
                className="size-4 accent-[var(--moss)]"
                checked={answer.returns ?? false}
                onChange={(e) =>
                  e.target.checked
                    ? // Nothing comes behind what goes back.
                      d.edit({
                        op: "batch",
                        edits: [
                          ...answer.steps.map((s) => ({ op: "step.remove" as const, id: s.id })),
                          {
                            op: "list.set",
                            step: step.id,
                            list: answer.id,
                            patch: { returns: true, abstains: null },
                          },
                        ],
                      })
                    : set({ returns: null })
                }
              />{" "}
              goes back to the requester for changes
            </label>
            <label className={box}>
              <input
                type="checkbox"
                className="size-4 accent-[var(--moss)]"
                checked={answer.byLadder ?? false}
                onChange={(e) => set({ byLadder: e.target.checked || null })}
              />{" "}
              only the ladder gives it: people are not offered it
            </label>
            <AnewChoice anew={answer.anew} onPick={(anew) => set({ anew })} />
            <button
              type="button"
              className="justify-self-start text-sm text-brick underline"
              onClick={() => d.edit({ op: "list.remove", step: step.id, list: answer.id })}
            >
              Remove this answer{answer.steps.length > 0 ? " and its steps" : ""}
            </button>
          </div>
        )}
      </Chip>
      {answer.byLadder && <span className="text-sm text-soft">by the ladder alone</span>}
      {answer.abstains && <span className="text-sm text-soft">abstains</span>}
      {answer.note === "must" && <span className="text-sm text-soft">with a note</span>}
      {answer.anew && (
        <span className="text-sm text-soft">
          <AnewChip anew={answer.anew} onPick={(anew) => set({ anew })} />
        </span>
      )}
      <span aria-hidden>→</span>
      {answer.returns ? (
        <span className="text-soft">back to the requester, then here again</span>
      ) : (
        <WayOnChip step={step.id} list={answer.id} steps={answer.steps} />
      )}
    </span>
  );
}

export const view: StepView<"decide"> = { icon: Scale, Sentence, ListHead };

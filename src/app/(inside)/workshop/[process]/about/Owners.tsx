"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { OwnersView } from "@/services";
import type { Answer } from "@/web";
import { Banner, Button, whenText } from "@/ui";
import { useDraft } from "@/workshop";
import { answerProposalAction, nameOwnerAction, proposeOwnersAction } from "../../../../actions/owners";
import { say } from "../../../../shell/say";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { useProof } from "../../../../shell/useProof";

interface Named {
  id: string;
  name: string;
}
const list = (people: readonly Named[]) => people.map((p) => p.name).join(", ");

/**
 * Who owns a process. It is no part of the draft: owners change when one who stays an owner says so or agrees, and the
 * process's log tells of it.
 */
export function Owners({ process, owned, zone }: { process: string; owned: OwnersView; zone: string }) {
  const router = useRouter();
  const d = useDraft();
  const [wanted, setWanted] = useState<Named[] | null>(null);
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const deed = <T,>(run: () => Promise<Answer<T>>, said: (value: T) => string) =>
    start(async () => {
      const r = await proved(run);
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      setWanted(null);
      setNote("");
      say(said(r.value));
      router.refresh();
    });
  const { proposal: p, may } = owned;
  const people = d.office.data.people.filter((x) => x.active);
  return (
    <div>
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <ul className={wanted === null ? "mb-2 pt-1.5" : "hidden"}>
        {owned.owners.map((o) => (
          <li key={o.id}>
            {o.name}
            {!o.here && <span className="text-soft">, who is not here any more</span>}
          </li>
        ))}
        {owned.owners.length === 0 && <li className="text-brick">Nobody</li>}
      </ul>
      {p && (
        <div className="mb-3 border-l-[3px] border-slate bg-slate-wash px-3 py-2">
          <p>
            {p.by} proposes {list(p.owners)} ({whenText(p.at, zone)}).{p.note && ` “${p.note}”`}
          </p>
          <p className="text-sm text-soft">
            {p.waitsFor.length > 0
              ? `It holds once one of these agrees: ${list(p.waitsFor)}.`
              : "Nobody who could agree is here any more."}
          </p>
          {(p.mayAgree || p.mayDrop) && (
            <div className="mt-2 flex gap-2">
              {p.mayAgree && (
                <Button
                  small
                  look="main"
                  disabled={busy}
                  onClick={() =>
                    deed(
                      () =>
                        answerProposalAction(
                          process,
                          p.owners.map((o) => o.id),
                          true,
                        ),
                      () => "The owners are changed.",
                    )
                  }
                >
                  Agree
                </Button>
              )}
              <Button
                small
                disabled={busy}
                onClick={() =>
                  deed(
                    () =>
                      answerProposalAction(
                        process,
                        p.owners.map((o) => o.id),
                        false,
                      ),
                    () => "The proposal is dropped.",
                  )
                }
              >
                Drop the proposal
              </Button>
            </div>
          )}
        </div>
      )}
      {may.name && (
        <div className="max-w-80">
          <PersonPicker
            id="name-owner"
            label="Name an owner"
            people={people}
            value={null}
            placeholder="Name an owner…"
            onPick={(o) =>
              o &&
              deed(
                () => nameOwnerAction(process, o.id),
                () => `${o.name} owns it now.`,
              )
            }
          />
          <p className="mt-1 text-sm text-soft">
            None of its owners is here any more, so the office names one.
          </p>
        </div>
      )}
      {may.propose && !may.name && wanted === null && (
        <Button small onClick={() => setWanted(owned.owners)}>
          Change the owners…
        </Button>
      )}
      {wanted !== null && (
        <form
          className="grid gap-2"
          aria-label="Change the owners"
          onSubmit={(e) => {
            e.preventDefault();
            deed(
              () =>
                proposeOwnersAction(
                  process,
                  wanted.map((o) => o.id),
                  note,
                ),
              (v) =>
                v.done ? "The owners are changed." : "Proposed. It holds once one who stays an owner agrees.",
            );
          }}
        >
          <ul>
            {wanted.map((o) => (
              <li key={o.id}>
                {o.name}{" "}
                <button
                  type="button"
                  className="ml-1 text-sm underline"
                  aria-label={`Take ${o.name} out`}
                  onClick={() => setWanted(wanted.filter((x) => x.id !== o.id))}
                >
                  take out
                </button>
              </li>
            ))}
          </ul>
          <div className="max-w-80">
            <PersonPicker
              id="p-owner"
              label="Add an owner"
              people={people}
              value={null}
              placeholder="Add an owner…"
              but={wanted}
              onPick={(o) => o && setWanted([...wanted, { id: o.id, name: o.name }])}
            />
          </div>
          <label className="block max-w-lg">
            <span className="mb-1 block text-sm">Why, for those concerned</span>
            <input className="input" value={note} maxLength={500} onChange={(e) => setNote(e.target.value)} />
          </label>
          <div className="flex gap-2">
            <Button small look="main" type="submit" disabled={busy || wanted.length === 0}>
              Change the owners
            </Button>
            <Button small onClick={() => setWanted(null)}>
              Leave them
            </Button>
          </div>
        </form>
      )}
    </div>
  );
}

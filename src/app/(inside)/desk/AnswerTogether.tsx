import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { AnsweredSeveral, AnsweredTogether } from "@/services";
import { Banner, Button } from "@/ui";
import { answerSeveralAction } from "../../actions/requests";
import { say } from "../../shell/say";
import { TONE_LOOK } from "../../shell/toneLook";
import type { DeskItem } from "./deskItem";

/** One answer and one note for several tasks of one step. */
export function AnswerTogether({
  chosen,
  like,
  onChoose,
}: {
  chosen: readonly DeskItem[];
  /** All in sight that may be answered together with them. */
  like: readonly DeskItem[];
  onChoose(rows: readonly DeskItem[]): void;
}) {
  const router = useRouter();
  const [note, setNote] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const [refused, setRefused] = useState<AnsweredSeveral["refused"]>([]);
  const [busy, start] = useTransition();
  const answer = (a: AnsweredTogether["answers"][number]) => {
    if (a.note && !note.trim()) {
      setSaid(`“${a.label}” needs a note that says why; it goes with each of them.`);
      document.getElementById("note-for-all")?.focus();
      return;
    }
    start(async () => {
      const tasks = chosen.map(({ number, task }) => ({ number, task }));
      const r = await answerSeveralAction(tasks, a.id, note).catch(() => null);
      if (!r?.ok) {
        setSaid(r?.sentence ?? "The server could not be reached. Look what is still here, then try again.");
        router.refresh();
        return;
      }
      const { answered, refused: not } = r.value;
      setSaid(null);
      setRefused(not);
      if (not.length === 0) setNote("");
      onChoose(chosen.filter((x) => not.some((n) => n.number === x.number && n.task === x.task)));
      say(`${answered} answered: ${a.label}.`);
      router.refresh();
    });
  };
  if (chosen.length === 0 && refused.length === 0) return null;
  const answers = chosen[0]?.withOthers?.answers ?? [];
  const more = like.length - chosen.length;
  return (
    <section
      aria-labelledby="together"
      data-foot
      className="z-10 mt-4 border-t border-line-strong bg-ground pt-3 pb-3 md:sticky md:bottom-0"
    >
      {refused.length > 0 && (
        <Banner tone="bad">
          {refused.length === 1 ? "One was not answered:" : `${refused.length} were not answered:`}
          <ul className="mt-1">
            {refused.map((r) => (
              <li key={`${r.number} ${r.task}`}>
                <Link className="link" href={`/desk/${r.number}/${r.task}`} prefetch={false}>
                  {r.number}
                </Link>
                : {r.sentence}
              </li>
            ))}
          </ul>
          <button type="button" className="link mt-1 min-h-6" onClick={() => setRefused([])}>
            Seen
          </button>
        </Banner>
      )}
      {chosen.length > 0 && (
        <>
          <div className="mb-1.5 flex flex-wrap items-center gap-3">
            <h2 id="together" className="!text-base">
              {chosen.length === 1 ? "One chosen" : `${chosen.length} chosen`}: {chosen[0]!.step}
            </h2>
            {more > 0 && (
              <Button small look="quiet" disabled={busy} onClick={() => onChoose(like)}>
                Choose {more} more like {chosen.length === 1 ? "it" : "them"}
              </Button>
            )}
            <Button small look="quiet" disabled={busy} onClick={() => onChoose([])}>
              Choose none
            </Button>
          </div>
          {said && <Banner tone="bad">{said}</Banner>}
          <label htmlFor="note-for-all" className="sr-only">
            Note for each of them
          </label>
          <textarea
            id="note-for-all"
            rows={1}
            maxLength={4000}
            className="input mb-2 max-w-3xl"
            value={note}
            onChange={(e) => setNote(e.target.value)}
            placeholder="Note for each of them: everybody who sees the request can read it"
          />
          <div className="flex flex-wrap gap-3">
            {answers.map((a) => (
              <Button key={a.id} look={TONE_LOOK[a.tone]} disabled={busy} onClick={() => answer(a)}>
                {a.label}
              </Button>
            ))}
          </div>
        </>
      )}
      {chosen.length === 0 && (
        <h2 id="together" className="sr-only">
          Not answered
        </h2>
      )}
    </section>
  );
}

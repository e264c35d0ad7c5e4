import type { AskedBeside } from "@/services";
import { whenText } from "@/ui";

/** What was asked beside a task, with what came back. */
export function Questions({ asked, zone }: { asked: readonly AskedBeside[]; zone: string }) {
  if (asked.length === 0) return null;
  return (
    <section aria-labelledby="asked" className="mb-6">
      <h2 id="asked" className="mb-2">
        Asked beside it
      </h2>
      <ol className="grid gap-3">
        {asked.map((q) => (
          <li key={q.task} className="border-l-[3px] border-slate bg-slate-wash px-3 py-2">
            <p className="text-sm text-soft">
              {q.by} asks {q.to}, {whenText(q.at, zone)}
            </p>
            <p className="break-words whitespace-pre-wrap">{q.text}</p>
            {q.answer ? (
              <div className="mt-2 border-t border-line pt-2">
                <p className="text-sm text-soft">
                  {q.answer.by} answers, {whenText(q.answer.at, zone)}
                </p>
                <p className="font-medium break-words whitespace-pre-wrap">{q.answer.text}</p>
              </div>
            ) : (
              <p className="mt-1 text-sm text-soft">
                {q.waits ? "Not answered yet." : "Nobody is there any more to answer it."}
              </p>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

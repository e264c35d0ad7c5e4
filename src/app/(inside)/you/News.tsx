"use client";
import { useState, useTransition } from "react";
import { wantNewsAction } from "../../actions/requests";
import { say } from "../../shell/say";

interface Kind {
  kind: string;
  says: string;
  wanted: boolean;
}

/** Which news somebody has. What a process itself tells always comes. */
export function News({ kinds }: { kinds: readonly Kind[] }) {
  const [shown, setShown] = useState(kinds);
  const [, start] = useTransition();
  const put = (kind: string, wanted: boolean) =>
    setShown((s) => s.map((k) => (k.kind === kind ? { ...k, wanted } : k)));
  const want = (kind: string, wanted: boolean) => {
    put(kind, wanted);
    start(async () => {
      const r = await wantNewsAction(kind, wanted).catch(() => null);
      if (r?.ok) return say("Kept.");
      put(kind, !wanted);
      say(r?.sentence ?? "The server could not be reached; nothing was changed.", "bad");
    });
  };
  return (
    <section aria-labelledby="news">
      <h2 id="news" className="mb-1 scroll-mt-16">
        What you are told of
      </h2>
      <p className="mb-2 text-soft">
        A notice comes when… What a process itself tells you comes in any case; your desk shows all tasks
        whatever is chosen here.
      </p>
      <ul className="grid gap-0.5">
        {shown.map((k) => (
          <li key={k.kind}>
            <label className="flex min-h-8 items-center gap-2.5">
              <input
                type="checkbox"
                className="size-4 accent-moss"
                checked={k.wanted}
                onChange={(e) => want(k.kind, e.target.checked)}
              />
              {k.says}
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}

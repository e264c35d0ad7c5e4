"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { StartFares } from "@/services";
import { Banner, Button, whenText } from "@/ui";
import { pauseStartAction } from "../../../../actions/workshop";

const countText = (n: number, one: string): string => (n === 1 ? `1 ${one}` : `${n} ${one}s`);

function stateText(s: StartFares): string {
  if (!s.paused) return "";
  if (s.pressed) return "Paused: it is offered on no record.";
  return s.paused.keeps
    ? "Paused: what comes meanwhile is taken up when it goes on."
    : "Paused: what comes meanwhile is left out.";
}

/** How its starts fare, but for its form: what they began, what waits, what could not begin; and how they are paused. */
export function StartsFare({
  process,
  starts,
  zone,
}: {
  process: string;
  starts: StartFares[];
  zone: string;
}) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [working, start] = useTransition();
  const pause = (id: string, keeps: boolean | null) =>
    start(async () => {
      const r = await pauseStartAction(process, id, keeps).catch(() => null);
      setWrong(r?.ok ? "" : (r?.sentence ?? "The server could not be reached. Try again in a moment."));
      router.refresh();
    });
  return (
    <section aria-labelledby="starts-fare" className="mt-5">
      <h2 id="starts-fare" className="mb-2">
        How its starts fare
      </h2>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      <ul>
        {starts.map((s) => (
          <li key={s.id} className="border-t border-line py-2">
            <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
              <span>
                {s.words}
                <span className="block text-sm text-soft">
                  {s.made !== null && `${countText(s.made, "request")} begun`}
                  {s.waiting > 0 && `, ${countText(s.waiting, "change")} waiting`}
                  {s.kept.length > 0 && `, ${countText(s.kept.length, "change")} that could begin none`}
                </span>
                {s.paused && <span className="block text-sm text-lichen">{stateText(s)}</span>}
              </span>
              <span className="flex flex-wrap gap-2">
                {s.paused ? (
                  <Button small disabled={working} onClick={() => pause(s.id, null)}>
                    Let it go on
                  </Button>
                ) : (
                  <>
                    {!s.pressed && (
                      <Button small disabled={working} onClick={() => pause(s.id, true)}>
                        Pause, and catch up later
                      </Button>
                    )}
                    <Button small look="quiet" disabled={working} onClick={() => pause(s.id, false)}>
                      {s.pressed ? "Pause" : "Pause, and leave out"}
                    </Button>
                  </>
                )}
              </span>
            </div>
            {s.kept.length > 0 && (
              <ul className="mt-1 text-sm">
                {s.kept.map((k, i) => (
                  <li key={i} className="border-l-2 border-brick py-0.5 pl-2">
                    <Link className="link" href={`/registers/${k.register}/${k.record}`} prefetch={false}>
                      {whenText(k.at, zone)}
                    </Link>
                    : {k.why}
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

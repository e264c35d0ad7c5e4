"use client";
import { useState, useTransition } from "react";
import { useRouter } from "next/navigation";
import type { NewsChosen } from "@/services";
import { Button } from "@/ui";
import { chooseNewsAction, chooseQuietHoursAction } from "../../actions/you";
import { say } from "../../shell/say";

type Kind = NewsChosen["kinds"][number];
type Way = "screen" | "mail" | "chat";

/** Of what somebody is told, by which ways, and when they are left alone. What a process itself tells always comes. */
export function News({ now, zone }: { now: NewsChosen; zone: string }) {
  const [shown, setShown] = useState(now.kinds);
  const [, start] = useTransition();
  const put = (kind: string, way: Way, wanted: boolean) =>
    setShown((s) => s.map((k) => (k.kind === kind ? { ...k, [way]: wanted } : k)));
  const choose = (kind: string, way: Way, wanted: boolean) => {
    put(kind, way, wanted);
    start(async () => {
      const r = await chooseNewsAction(kind, way, wanted).catch(() => null);
      if (r?.ok) return say("Kept.");
      put(kind, way, !wanted);
      say(r?.sentence ?? "The server could not be reached; nothing was changed.", "bad");
    });
  };
  const ways: { way: Way; says: string; why: string }[] = [
    { way: "screen", says: "Notice", why: "" },
    { way: "mail", says: "Mail", why: whyNot(now.mail) },
    ...(now.chat ? [{ way: "chat" as const, says: "Chat", why: whyNot(now.chat) }] : []),
  ];
  return (
    <section aria-labelledby="news">
      <h2 id="news" className="mb-1 scroll-mt-16">
        What you are told of
      </h2>
      <p className="mb-2 text-soft">
        What a process itself tells you comes as a notice in any case; your desk shows all tasks whatever is
        chosen here.
      </p>
      <table className="w-full">
        <thead>
          <tr>
            <th className="py-1 text-left">When</th>
            {ways.map((w) => (
              <th key={w.way} className="w-16 px-1 py-1 text-center">
                {w.says}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shown.map((k) => (
            <tr key={k.kind} className="border-t border-line">
              <th scope="row" className="py-1.5 text-left font-normal">
                {k.says}
              </th>
              {ways.map(({ way, says, why }) => (
                <td key={way} className="px-1 py-2 text-center align-middle">
                  <Tick
                    kind={k}
                    way={way}
                    label={`${k.says}: ${says.toLowerCase()}`}
                    why={why}
                    choose={(wanted) => choose(k.kind, way, wanted)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {ways.map((w) =>
        w.why === "" ? null : (
          <p key={w.way} className="mt-1 text-sm text-soft">
            {w.says}: {w.why}
          </p>
        ),
      )}
      <QuietHours now={now.quiet} zone={zone} />
    </section>
  );
}

const whyNot = (w: NonNullable<NewsChosen["chat"]>): string => ("why" in w ? w.why : "");

/** What is not wanted as a notice comes by no other way either. */
function Tick({
  kind,
  way,
  label,
  why,
  choose,
}: {
  kind: Kind;
  way: Way;
  label: string;
  why: string;
  choose(wanted: boolean): void;
}) {
  const always = way === "screen" && kind.screen === null;
  const off = way !== "screen" && kind.screen === false;
  const checked = always || (!off && kind[way] === true);
  return (
    <input
      type="checkbox"
      aria-label={label}
      className="size-4 accent-moss"
      title={always ? "It always comes." : undefined}
      checked={checked}
      // What was chosen before can be taken back where it does not go any more.
      disabled={always || off || (why !== "" && !checked)}
      onChange={(e) => choose(e.target.checked)}
    />
  );
}

function QuietHours({ now, zone }: { now: NewsChosen["quiet"]; zone: string }) {
  const router = useRouter();
  const [hours, setHours] = useState(now ?? { from: "19:00", until: "07:30" });
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const keep = (next: NewsChosen["quiet"]) =>
    start(async () => {
      const r = await chooseQuietHoursAction(next).catch(() => null);
      if (!r?.ok) return setWrong(r?.sentence ?? "The server could not be reached; nothing was changed.");
      setWrong("");
      say(next ? `Nothing is sent from ${next.from} until ${next.until}.` : "News is sent at any hour.");
      router.refresh();
    });
  const time = (label: string, part: "from" | "until") => (
    <label className="block">
      <span className="mb-1 block text-sm">{label}</span>
      <input
        type="time"
        required
        className="input !w-36"
        value={hours[part]}
        onChange={(e) => setHours({ ...hours, [part]: e.target.value })}
      />
    </label>
  );
  return (
    <form
      aria-label="Quiet hours"
      className="mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        keep(hours);
      }}
    >
      <h3 className="!text-base">Quiet hours</h3>
      <p className="mb-2 text-soft">
        {now
          ? `Mail and chat wait from ${now.from} until ${now.until}, by the clock of ${placeOf(zone)}.`
          : `Mail and chat come at any hour. In quiet hours, by the clock of ${placeOf(zone)}, they wait until these are over.`}
      </p>
      {wrong && <p className="mb-2 text-brick">{wrong}</p>}
      <div className="flex flex-wrap items-end gap-3">
        {time("They begin at", "from")}
        {time("They end at", "until")}
        <Button type="submit" disabled={busy}>
          {now ? "Change them" : "Keep them"}
        </Button>
        {now && (
          <Button disabled={busy} onClick={() => keep(null)}>
            No quiet hours
          </Button>
        )}
      </div>
    </form>
  );
}

const placeOf = (zone: string): string => zone.split("/").at(-1)!.replaceAll("_", " ");

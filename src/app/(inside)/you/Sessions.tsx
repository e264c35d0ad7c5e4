"use client";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import { Button, Mark, Table, whenText } from "@/ui";
import { endSessionAction } from "../../actions/you";
import { say } from "../../shell/say";
import { browserName } from "./browserName";

interface Session {
  id: string;
  here: boolean;
  how: string;
  browser: string;
  address: string;
  began: number;
  seen: number;
}

/** Where one is signed in, and a way to end each. */
export function Sessions({ sessions, zone }: { sessions: Session[]; zone: string }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const end = (id: string | null, said: string) =>
    start(async () => {
      const r = await endSessionAction(id);
      if (r.ok) say(said);
      else say(r.sentence, "bad");
      router.refresh();
    });
  return (
    <section aria-labelledby="sessions">
      <h2 id="sessions" className="mb-2">
        Where you are signed in
      </h2>
      <Table
        aria-labelledby="sessions"
        head={["Browser", "Address", "Since", "Last used", { id: "do", name: "Do", hidden: true }]}
      >
        {sessions.map((s) => (
          <tr key={s.id}>
            <td>{browserName(s.browser)}</td>
            <td className="text-soft">{s.address}</td>
            <td className="whitespace-nowrap">{whenText(s.began, zone)}</td>
            <td className="whitespace-nowrap">{whenText(s.seen, zone)}</td>
            <td>
              {s.here ? (
                <Mark tone="info">here</Mark>
              ) : (
                <Button
                  small
                  disabled={busy}
                  aria-label={`End ${browserName(s.browser)}, since ${whenText(s.began, zone)}`}
                  onClick={() => end(s.id, "That session has ended.")}
                >
                  End
                </Button>
              )}
            </td>
          </tr>
        ))}
      </Table>
      {sessions.length > 1 && (
        <p className="mt-3">
          <Button disabled={busy} onClick={() => end(null, "All others have ended.")}>
            End all but this one
          </Button>
        </p>
      )}
    </section>
  );
}

"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState, useTransition } from "react";
import type { Reshape } from "@/services";
import { Banner, Button } from "@/ui";
import { reshapeAction } from "../../../../actions/registers";

/** How often it is looked how far the records have been gone through. */
const LOOK_MS = 2_000;

/** What becomes of a change for which the records are gone through: how far it is, what it asks, why it was not made. */
export function Reshaping({ register, reshape: r }: { register: string; reshape: Reshape }) {
  const router = useRouter();
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  useEffect(() => {
    if (r.state !== "working") return;
    const timer = setInterval(() => router.refresh(), LOOK_MS);
    return () => clearInterval(timer);
  }, [r.state, router]);
  const act = (deed: "agree" | "stop") =>
    start(async () => {
      const done = await reshapeAction(register, deed);
      if (done.ok) router.refresh();
      else setWrong(done.sentence);
    });
  const figure = (n: number) => n.toLocaleString("en-IE");
  return (
    <Banner tone={r.state === "working" ? "info" : "bad"}>
      {wrong && <p>{wrong}</p>}
      {r.state === "working" && (
        <p role="status">
          The records are gone through for a change of this register: {figure(Math.min(r.done, r.total))} of{" "}
          {figure(r.total)}. Until all are through it stays as it is, and everybody goes on working.
        </p>
      )}
      {r.state === "refused" && <p>The last change was not made. {r.why}</p>}
      {r.loses.map((l) => (
        <p key={l.column}>
          Nothing can be made of what {figure(l.count)} {l.count === 1 ? "record holds" : "records hold"} in “
          {l.name}”: {l.examples.map((e) => `"${e.text}" in ${e.title}`).join(", ")}
          {l.count > l.examples.length ? `, and ${figure(l.count - l.examples.length)} more` : ""}.
        </p>
      ))}
      <p className="mt-2 flex gap-2">
        {r.state === "asks" && (
          <Button small disabled={busy} onClick={() => act("agree")}>
            Leave them empty and go on
          </Button>
        )}
        <Button small look="quiet" disabled={busy} onClick={() => act("stop")}>
          {r.state === "refused" ? "I have seen it" : "Give this change up"}
        </Button>
      </p>
    </Banner>
  );
}

"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { Limit } from "@/core/route";
import { Banner, Button, Dialog, Field, RadioGroup } from "@/ui";
import { actAction } from "../../../../actions/requests";
import { PersonPicker } from "../../../../shell/PersonPicker";
import { say } from "../../../../shell/say";

/** Asks whoever made the request, or a colleague, something about it; the task stays where it is. */
export function AskSomebody({
  open,
  onOpenChange,
  number,
  task,
  asker,
  stands,
}: {
  open: boolean;
  onOpenChange(o: boolean): void;
  number: string;
  task: string;
  /** Who made the request, where they can be asked. */
  asker: { id: string; name: string } | null;
  /** While what the limit of the task stands still. */
  stands: Limit["still"] | null;
}) {
  const router = useRouter();
  const [who, setWho] = useState<"asker" | "colleague">(asker ? "asker" : "colleague");
  const [picked, setPicked] = useState<{ id: string; name: string } | null>(null);
  const [text, setText] = useState("");
  const [failed, setFailed] = useState<string | null>(null);
  const [busy, start] = useTransition();
  const to = who === "asker" ? asker : picked;
  const missing = [...(to ? [] : ["choose whom"]), ...(text.trim() ? [] : ["write what you want to know"])];
  const send = () =>
    to &&
    start(async () => {
      const r = await actAction(number, { type: "ask", task, to: to.id, note: text }).catch(() => null);
      if (!r?.ok) {
        setFailed(r?.sentence ?? "The server could not be reached. Nothing is lost; try again in a moment.");
        return;
      }
      setFailed(null);
      setText("");
      setPicked(null);
      onOpenChange(false);
      say(`${to.name} is asked. The answer comes to this page.`);
      router.refresh();
    });
  const still = stands === "anybody" || (stands === "asker" && who === "asker");
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Ask somebody">
      <p className="mb-3 text-soft">
        The task stays with you, and nothing is decided by what they say.{" "}
        {still ? "The limit stands still until they answer." : "The limit stays as it is."}
      </p>
      <div className="grid gap-3">
        {asker && (
          <RadioGroup
            label="Whom"
            value={who}
            options={[
              { id: "asker", label: `${asker.name}, who made the request` },
              {
                id: "colleague",
                label: "A colleague, for advice",
                help: "They may look at the request, and see in it what you see.",
              },
            ]}
            onPick={(id) => setWho(id === "asker" ? "asker" : "colleague")}
          />
        )}
        {who === "colleague" && (
          <div>
            <p className="mb-1">Colleague</p>
            <PersonPicker
              id="ask-whom"
              label="Colleague"
              value={picked?.id ?? null}
              placeholder="Choose…"
              onPick={(p) => setPicked(p && { id: p.id, name: p.name })}
            />
            {!asker && (
              <p className="mt-1 text-sm text-soft">
                They may look at the request, and see in it what you see.
              </p>
            )}
          </div>
        )}
        <Field label="What you want to know">
          {(p) => (
            <textarea
              {...p}
              rows={3}
              maxLength={4000}
              className="input"
              value={text}
              onChange={(e) => setText(e.target.value)}
              placeholder="Everybody who sees the request can read it"
            />
          )}
        </Field>
        {failed && <Banner tone="bad">{failed}</Banner>}
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <Button look="main" disabled={busy || missing.length > 0} onClick={send}>
          Ask
        </Button>
        <Button onClick={() => onOpenChange(false)}>Leave it</Button>
        {missing.length > 0 && (
          <p className="text-sm text-soft" role="status">
            First {missing.join(" and ")}.
          </p>
        )}
      </div>
    </Dialog>
  );
}

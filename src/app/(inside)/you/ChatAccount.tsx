"use client";
import { useState, useTransition } from "react";
import { useRouter } from "next/navigation";
import type { ChatAccountShown } from "@/services";
import { Banner, Button } from "@/ui";
import { askChatCodeAction, tieChatAccountAction, untieChatAccountAction } from "../../actions/chat";
import { say } from "../../shell/say";

/** By which account of the chat room somebody is asked and told; it is theirs once they have said the code sent to it. */
export function ChatAccount({ now }: { now: ChatAccountShown }) {
  const router = useRouter();
  const [account, setAccount] = useState(now.asked ?? "");
  const [asked, setAsked] = useState(now.asked);
  const [code, setCode] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const run = (work: () => Promise<{ ok: true } | { ok: false; sentence: string }>, done: () => void) =>
    start(async () => {
      const r = await work().catch(() => null);
      if (!r) return setWrong("The server could not be reached; nothing was changed.");
      if (!r.ok) return setWrong(r.sentence);
      setWrong("");
      done();
      router.refresh();
    });
  return (
    <section aria-labelledby="chat">
      <h2 id="chat" className="mb-1 scroll-mt-16">
        {now.room}
      </h2>
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {now.account !== null ? (
        <div className="flex flex-wrap items-center gap-3">
          <p>
            You are asked and told there as <strong>{now.account}</strong>.
          </p>
          <Button
            small
            disabled={busy}
            onClick={() =>
              run(untieChatAccountAction, () => {
                setAsked(null);
                setAccount("");
                say(`${now.account} is not tied to you any more.`);
              })
            }
          >
            Not any more
          </Button>
        </div>
      ) : (
        <>
          <p className="mb-2 text-soft">
            Processes can ask and tell you there once they know how you are called. A code is sent to you
            there, to be written here.
          </p>
          <form
            className="flex max-w-md flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              run(
                () => askChatCodeAction(account),
                () => setAsked(account.trim().replace(/^@/, "")),
              );
            }}
          >
            <label className="block min-w-56 flex-1">
              <span className="mb-1 block text-sm">Your account there</span>
              <input
                className="input"
                required
                autoComplete="off"
                value={account}
                placeholder="orla.fennimore"
                onChange={(e) => setAccount(e.target.value)}
              />
            </label>
            <Button type="submit" disabled={busy}>
              {asked === null ? "Send me a code" : "Send another code"}
            </Button>
          </form>
          {asked !== null && (
            <form
              className="mt-3 flex max-w-md flex-wrap items-end gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                run(
                  () => tieChatAccountAction(code),
                  () => {
                    setCode("");
                    say(`${asked} is tied to you.`);
                  },
                );
              }}
            >
              <label className="block min-w-56 flex-1">
                <span className="mb-1 block text-sm">The code that came to {asked}</span>
                <input
                  className="input"
                  required
                  inputMode="numeric"
                  autoComplete="one-time-code"
                  value={code}
                  onChange={(e) => setCode(e.target.value)}
                />
              </label>
              <Button look="main" type="submit" disabled={busy}>
                This is me
              </Button>
            </form>
          )}
        </>
      )}
    </section>
  );
}

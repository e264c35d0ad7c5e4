"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { ChatRoomInput, ChatRoomShown } from "@/services";
import { Banner, Button } from "@/ui";
import { putChatRoomAction, removeChatRoomAction, tryChatRoomAction } from "../../../actions/chat";
import { say } from "../../../shell/say";
import { useProof } from "../../../shell/useProof";
import { Line } from "../Line";

/** The chat room as it is set up. */
export function ChatRoomForm({ room, calls }: { room: ChatRoomShown | null; calls: string }) {
  const router = useRouter();
  const [said, setSaid] = useState<ChatRoomInput>({
    name: room?.name ?? "",
    address: room?.address ?? "",
    token: null,
    signingKey: null,
  });
  const [wrong, setWrong] = useState("");
  const [busy, start] = useTransition();
  const { proved, dialog } = useProof();
  const set = (patch: Partial<ChatRoomInput>) => setSaid({ ...said, ...patch });
  const after = (r: { ok: true } | { ok: false; sentence: string }, words: string) => {
    setWrong(r.ok ? "" : r.sentence);
    if (!r.ok) return;
    say(words);
    router.refresh();
  };
  const attempt = () =>
    start(async () => {
      const r = await tryChatRoomAction();
      if (!r.ok) say(r.sentence, "bad");
      else if (r.value.why === null) say(`${room?.name ?? "The chat room"} lets it in.`);
      else say(r.value.why, "bad");
    });
  const remove = () =>
    start(async () => {
      const r = await proved(removeChatRoomAction);
      if (r.ok) setSaid({ name: "", address: "", token: null, signingKey: null });
      after(r, "There is no chat room any more.");
    });
  return (
    <form
      className="grid max-w-3xl gap-3"
      aria-label="Chat room"
      onSubmit={(e) => {
        e.preventDefault();
        start(async () => {
          const r = await proved(() => putChatRoomAction(said));
          if (r.ok) setSaid({ ...said, token: null, signingKey: null });
          after(r, `${said.name} is kept.`);
        });
      }}
    >
      {dialog}
      {wrong && <Banner tone="bad">{wrong}</Banner>}
      {!room && (
        <p className="text-soft">
          There is none yet. One that speaks the way described in docs/chat-room.json can be set up here.
        </p>
      )}
      <Line
        label="Name"
        value={said.name}
        put={(name) => set({ name })}
        required
        placeholder="Quillhaven chat"
      />
      <Line
        label="Address"
        value={said.address}
        put={(address) => set({ address })}
        required
        placeholder="https://chat.example.org"
      />
      <Line
        label="Token it is entered with"
        type="password"
        value={said.token ?? ""}
        put={(v) => set({ token: v === "" ? null : v })}
        autoComplete="new-password"
        placeholder={room ? "as it was" : ""}
      />
      <Line
        label="Key it signs with"
        type="password"
        value={said.signingKey ?? ""}
        put={(v) => set({ signingKey: v === "" ? null : v })}
        autoComplete="new-password"
        placeholder={room ? "as it was" : ""}
      />
      <p className="max-w-prose text-sm text-soft">
        When somebody presses an answer there, it calls {calls}. Only what is signed with that key (HTTP
        Message Signatures, RFC 9421) is believed.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={busy}>
          Keep
        </Button>
        {room && (
          <>
            <Button disabled={busy} onClick={attempt}>
              Try it
            </Button>
            <Button look="brick" disabled={busy} onClick={remove}>
              Remove
            </Button>
          </>
        )}
      </div>
    </form>
  );
}

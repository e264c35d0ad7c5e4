"use client";
import { useState } from "react";
import type { ChatRoomInput, ChatRoomShown } from "@/services";
import { putChatRoomAction, removeChatRoomAction, tryChatRoomAction } from "../../../actions/chat";
import { Line } from "../Line";
import { ServiceForm } from "../ServiceForm";

const BLANK: ChatRoomInput = { name: "", address: "", token: null, signingKey: null };

/** The chat room as it is set up. */
export function ChatRoomForm({ room, calls }: { room: ChatRoomShown | null; calls: string }) {
  const [said, setSaid] = useState<ChatRoomInput>({ ...BLANK, ...room });
  const set = (patch: Partial<ChatRoomInput>) => setSaid({ ...said, ...patch });
  return (
    <ServiceForm
      label="Chat room"
      exists={room !== null}
      onKeep={() => putChatRoomAction(said)}
      onKept={() => set({ token: null, signingKey: null })}
      onTry={tryChatRoomAction}
      onRemove={removeChatRoomAction}
      onRemoved={() => setSaid(BLANK)}
      says={{
        kept: `${said.name} is kept.`,
        letsIn: `${room?.name ?? "The chat room"} lets it in.`,
        removed: "There is no chat room any more.",
      }}
    >
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
    </ServiceForm>
  );
}

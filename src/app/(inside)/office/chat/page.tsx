import type { Metadata } from "next";
import { chatRoomShown } from "@/services";
import { PageHeader } from "@/ui";
import { answerOf, requireActor } from "@/web";
import { Missing } from "../../../shell/Missing";
import { ChatRoomForm } from "./ChatRoomForm";

export const metadata: Metadata = { title: "Chat room" };

export default async function ChatRoomPage() {
  const actor = await requireActor("/office/chat");
  const room = await answerOf(await chatRoomShown(actor));
  if (!room.ok)
    return (
      <Missing
        sentence="The chat room is seen to by those with the rights of the office."
        back={{ href: "/office", name: "Office" }}
      />
    );
  return (
    <>
      <PageHeader
        title="Chat room"
        lead="Where processes tell people something, and ask for answers to press there. People tie their own account on the page with their name."
      />
      <ChatRoomForm room={room.value.room} calls={room.value.calls} />
    </>
  );
}

import { z } from "zod";

const text = (most: number) => z.string().max(most);

/** Who reads a message. */
export const TO = z.union([z.strictObject({ account: text(200) }), z.strictObject({ room: text(200) })]);

/** What a message says, as docs/chat-room.json describes it. */
export const MESSAGE = z.strictObject({
  heading: text(1000),
  text: text(50_000),
  facts: z.array(z.strictObject({ name: text(200), value: text(2000) })).max(50),
  answers: z
    .array(
      z.strictObject({ id: text(200), label: text(200), does: text(1000), note: z.enum(["may", "must"]) }),
    )
    .max(20),
  fills: z
    .array(
      z.strictObject({
        id: text(200),
        label: text(200),
        value: text(20_000),
        needed: z.boolean(),
        choices: z.array(text(400)).max(500).nullable(),
      }),
    )
    .max(20),
  link: z.strictObject({ label: text(200), address: text(2000) }).nullable(),
  over: text(2000).nullable(),
});
export const POSTED = z.strictObject({ key: text(200).min(1), to: TO, message: MESSAGE });
export const REPLACED = z.strictObject({ message: MESSAGE });

export type Message = z.infer<typeof MESSAGE>;
export interface Kept {
  id: string;
  key: string;
  to: z.infer<typeof TO>;
  message: Message;
  at: number;
  /** How often something else was put in its place. */
  changes: number;
}

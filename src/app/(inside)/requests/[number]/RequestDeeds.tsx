"use client";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { RequestView } from "@/services";
import { Button, Menu, whenText, type MenuGroup } from "@/ui";
import { callBackLinksAction } from "../../../actions/owners";
import { actAction, type CommandInput } from "../../../actions/requests";
import { say } from "../../../shell/say";
import { DeedDialog, type Deed } from "./DeedDialog";

type Waiting = Pick<
  RequestView["waiting"][number],
  "task" | "token" | "step" | "about" | "people" | "ways" | "due" | "still" | "beside"
>;

/** What can be done with a request as a whole: withdraw it, and by its owners all that gets it going again. */
export function RequestDeeds({
  number,
  zone,
  mayWithdraw,
  mayCancel,
  stuck,
  waiting,
  asleep,
  links,
}: {
  number: string;
  zone: string;
  mayWithdraw: boolean;
  mayCancel: boolean;
  /** All empty for whoever is no owner. */
  stuck: RequestView["stuck"];
  waiting: readonly Waiting[];
  asleep: RequestView["asleep"];
  links: RequestView["links"];
}) {
  const router = useRouter();
  const [deed, setDeed] = useState<Deed | null>(null);
  const [busy, start] = useTransition();
  const send = (input: CommandInput, done: string) =>
    start(async () => {
      const r = await actAction(number, input).catch(() => null);
      if (!r) return say("The server could not be reached. Nothing was done; try again in a moment.", "bad");
      // Trying again is told as done only when it went on.
      if (!r.ok) say(r.sentence, "bad");
      else if (input.type === "retry" && r.value.stuck.length > 0)
        say(`It is still stuck. ${r.value.stuck[0]}`, "bad");
      else say(done);
      if (r.ok) setDeed(null);
      router.refresh();
    });
  const callBack = (send: boolean) =>
    start(async () => {
      const r = await callBackLinksAction(number, send).catch(() => null);
      if (!r) return say("The server could not be reached. Nothing was done; try again in a moment.", "bad");
      if (!r.ok) return say(r.sentence, "bad");
      say(
        `The links they had lead nowhere any more.${r.value.sent ? " A letter with a new one is on its way." : ""}`,
      );
      router.refresh();
    });
  const ofLinks: MenuGroup = {
    heading: "Who asked follows it by a link",
    items: links
      ? [
          ...(links.send
            ? [
                {
                  id: "new link",
                  label: "Send a new link, and call the others back",
                  onPick: () => callBack(true),
                },
              ]
            : []),
          { id: "no link", label: "Call their links back", bad: true, onPick: () => callBack(false) },
        ]
      : [],
  };
  const ofStuck = stuck.map((s): MenuGroup => ({
    heading: `Stuck at “${s.step}”${s.round ? ` (${s.round})` : ""}`,
    items: [
      {
        id: "retry",
        label: "Try again",
        onPick: () => send({ type: "retry", token: s.token }, "It went on."),
      },
      ...(s.asks
        ? [
            {
              id: "name",
              label: "Ask somebody by name…",
              onPick: () => setDeed({ do: "name", token: s.token, step: s.step }),
            },
          ]
        : []),
      {
        id: "skip",
        label: "Go on without…",
        onPick: () => setDeed({ do: "skip", token: s.token, step: s.step, ways: s.ways }),
      },
    ],
  }));
  const ofStep = (w: Waiting): MenuGroup["items"] => [
    {
      id: "limit",
      label: w.due === null && w.still === null ? "Give it a limit…" : "Change the limit…",
      onPick: () => setDeed({ do: "change limit", task: w.task, step: w.step, due: w.due }),
    },
    {
      id: "skip",
      label: "Go on without an answer…",
      onPick: () => setDeed({ do: "skip", token: w.token, step: w.step, ways: w.ways }),
    },
  ];
  const ofTasks = waiting.map((w): MenuGroup => {
    const who = w.people.map((p) => p.name).join(", ");
    return {
      heading: `${w.step}${w.about ? ` (${w.about})` : ""}: ${who}`,
      items: [
        {
          id: "remind",
          label: "Remind…",
          onPick: () => setDeed({ do: "remind", task: w.task, who }),
        },
        {
          id: "reassign",
          label: "Hand over to somebody else…",
          onPick: () => setDeed({ do: "reassign", task: w.task, who }),
        },
        ...(w.beside ? [] : ofStep(w)),
      ],
    };
  });
  const ofSleeps = asleep.map((z): MenuGroup => ({
    heading: `${z.step}${z.round ? ` (${z.round})` : ""}: ${sleepText(z, zone)}`,
    items: [
      {
        id: "skip",
        label: "Go on without waiting…",
        onPick: () => setDeed({ do: "skip", token: z.token, step: z.step, ways: [] }),
      },
    ],
  }));
  const whole: MenuGroup = {
    items: mayCancel
      ? [
          {
            id: "cancel",
            label: "Cancel the request…",
            bad: true,
            onPick: () => setDeed({ do: "cancel" }),
          },
        ]
      : [],
  };
  const groups = [...ofStuck, ...ofTasks, ...ofSleeps, ofLinks, whole].filter((g) => g.items.length > 0);
  return (
    <>
      {groups.length > 0 && (
        <Menu
          groups={groups}
          trigger={
            <Button look={stuck.length > 0 ? "main" : "plain"} disabled={busy}>
              {stuck.length > 0 ? "Get it going" : "Look after it"} <span aria-hidden>▾</span>
            </Button>
          }
        />
      )}
      {mayWithdraw && <Button onClick={() => setDeed({ do: "withdraw" })}>Withdraw…</Button>}
      <DeedDialog
        // What was typed belongs to one deed.
        key={deed ? JSON.stringify(deed) : "none"}
        deed={deed}
        number={number}
        zone={zone}
        busy={busy}
        onSend={send}
        onClose={() => setDeed(null)}
      />
    </>
  );
}

function sleepText({ until, awaits }: RequestView["asleep"][number], zone: string): string {
  const latest = until === null ? "" : whenText(until, zone);
  if (awaits === "request") return "waits for another request to end";
  if (awaits === "moment") return `sleeps until ${latest}`;
  return `waits until it is so${latest && `, no later than ${latest}`}`;
}

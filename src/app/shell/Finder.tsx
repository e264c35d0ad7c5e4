"use client";
import {
  BookOpen,
  Inbox,
  ListChecks,
  Mail,
  MessagesSquare,
  PenLine,
  Rows3,
  Signpost,
  Workflow,
} from "lucide-react";
import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import type { Found } from "@/services";
import { Dialog } from "@/ui";
import { findAction } from "../actions/requests";

export interface Place {
  name: string;
  where: string;
  go: string | (() => void);
}
const KINDS: Record<Found["kind"], [string, typeof Inbox]> = {
  form: ["Ask for", PenLine],
  request: ["Requests", Inbox],
  conversation: ["Conversations", MessagesSquare],
  process: ["Processes", Workflow],
  field: ["Fields", Rows3],
  step: ["Steps", ListChecks],
  letter: ["Letters", Mail],
  record: ["Records", BookOpen],
};
const GROUPS = Object.keys(KINDS) as Found["kind"][];
const PAUSE_MS = 140;

/** Finds anything by a part of its name and goes there. */
export default function Finder({ places, onClose }: { places: readonly Place[]; onClose(): void }) {
  const router = useRouter();
  const [text, setText] = useState("");
  const [found, setFound] = useState<{ of: string; all: Found[] } | null>(null);
  const [failed, setFailed] = useState(false);
  const latest = useRef(0);
  const words = text.trim();
  useEffect(() => {
    const turn = ++latest.current;
    if (!words) return;
    // Answers to earlier letters that come late are dropped.
    const timer = setTimeout(() => {
      findAction(words).then(
        (all) => {
          if (turn === latest.current) {
            setFound({ of: words, all });
            setFailed(false);
          }
        },
        () => turn === latest.current && setFailed(true),
      );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [words]);
  const shown = words ? places.filter((p) => p.name.toLowerCase().includes(words.toLowerCase())) : places;
  const all = words && found ? found.all : [];
  const go = (to: Place["go"]) => {
    onClose();
    if (typeof to === "string") router.push(to);
    else to();
  };
  const sayings: [boolean, string][] = [
    [failed, "The server could not be reached. Try again in a moment."],
    [words !== "" && found?.of !== words, "Looking…"],
    [words !== "" && all.length + shown.length === 0, `Nothing you may see is called “${words}”.`],
  ];
  const said = sayings.find(([holds]) => holds)?.[1] ?? "";
  const item =
    "flex cursor-pointer items-baseline gap-3 rounded px-2 py-1.5 data-[selected=true]:bg-slate-wash";
  const heading = "px-2 pt-2 pb-0.5 text-sm text-soft";
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Find">
      <Command shouldFilter={false} label="Find" loop>
        <Command.Input
          autoFocus
          value={text}
          onValueChange={setText}
          placeholder="A form, request, record, field, step or page"
          className="input mb-1.5"
        />
        <Command.List aria-label="Found" className="max-h-[58vh] overflow-y-auto">
          {GROUPS.map((kind) => {
            const of = all.filter((f) => f.kind === kind);
            const [name, Icon] = KINDS[kind];
            return (
              of.length > 0 && (
                <Command.Group key={kind} heading={<p className={heading}>{name}</p>}>
                  {of.map((f) => (
                    <Command.Item
                      key={f.href}
                      value={`${kind} ${f.href}`}
                      onSelect={() => go(f.href)}
                      className={item}
                    >
                      <Icon
                        size={15}
                        strokeWidth={1.6}
                        aria-hidden
                        className="shrink-0 translate-y-0.5 text-soft"
                      />
                      <span className="min-w-0 truncate">{f.name}</span>
                      <span className="ml-auto shrink-0 text-sm text-soft">{f.where}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              )
            );
          })}
          {shown.length > 0 && (
            <Command.Group heading={<p className={heading}>Go to</p>}>
              {shown.map((p) => (
                <Command.Item
                  key={p.name}
                  value={`place ${p.name}`}
                  onSelect={() => go(p.go)}
                  className={item}
                >
                  <Signpost
                    size={15}
                    strokeWidth={1.6}
                    aria-hidden
                    className="shrink-0 translate-y-0.5 text-soft"
                  />
                  <span>{p.name}</span>
                  <span className="ml-auto shrink-0 text-sm text-soft">{p.where}</span>
                </Command.Item>
              ))}
            </Command.Group>
          )}
        </Command.List>
        <p role="status" className="min-h-6 px-2 pt-1 text-sm text-soft">
          {said}
        </p>
      </Command>
    </Dialog>
  );
}

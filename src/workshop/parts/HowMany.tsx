"use client";
import { stepKind } from "@/core/kinds";
import type { Asks, Assignment, Step } from "@/core/route";
import { KINDS } from "@/kinds";
import { Select } from "@/ui";
import { without } from "./without";

const HOW: { value: Assignment["how"] | NonNullable<Assignment["turns"]>; label: string }[] = [
  { value: "one", label: "any one of them takes it" },
  { value: "in turn", label: "one of them is asked, whose turn it is" },
  { value: "fewest open", label: "one of them is asked, who has the fewest open tasks" },
  { value: "first", label: "all are asked, the first answer counts" },
  { value: "all", label: "all are asked, all must agree" },
  { value: "share", label: "all are asked, a share must agree" },
  { value: "number", label: "all are asked, a number must agree" },
  { value: "order", label: "one after another is asked, all must agree" },
];
/** What is said of some ways alone. */
const OF_SOME = ["turns", "share", "number", "wins", "waits", "ties"] as const;

/** The people chosen another way: of several one is, or there is one task for any of them, or each has one. */
function withHow(who: Assignment, value: string): Assignment {
  const bare = OF_SOME.reduce<Assignment>((w, p) => without(w, p), who);
  if (value === "in turn" || value === "fewest open") return { ...bare, how: "one", turns: value };
  const how = value as Assignment["how"];
  const counted = how !== "one" && how !== "first";
  const { wins, waits, ties } = who;
  const kept = { ...(wins ? { wins } : {}), ...(waits ? { waits } : {}), ...(ties ? { ties } : {}) };
  return { ...bare, how, ...(counted ? kept : {}) };
}

/** How many of those found decide, and by which of their answers. */
export function HowMany({ step, onChange }: { step: Step & Asks; onChange(who: Assignment): void }) {
  const { who } = step;
  const answers = (stepKind(KINDS, step).asks?.answers(step) ?? []).filter(
    (a) => !a.returns && !a.abstains && !a.byLadder,
  );
  const counted = who.how !== "one" && who.how !== "first";
  const row = "grid grid-cols-[7rem_1fr] items-center gap-1 text-sm";
  const amount = (text: string, most: number) => Math.max(1, Math.min(most, Math.round(Number(text)) || 1));
  return (
    <>
      <label className={row}>
        <span className="text-soft">When several</span>
        <Select value={who.turns ?? who.how} onPick={(v) => onChange(withHow(who, v))} options={HOW} />
      </label>
      {who.how === "share" && (
        <label className={row}>
          <span className="text-soft">Percent</span>
          <input
            type="number"
            min={1}
            max={100}
            className="input !w-24"
            value={who.share ?? 50}
            onChange={(e) => onChange({ ...who, share: amount(e.target.value, 100) })}
          />
        </label>
      )}
      {who.how === "number" && (
        <label className={row}>
          <span className="text-soft">How many</span>
          <input
            type="number"
            min={1}
            max={2000}
            className="input !w-24"
            value={who.number ?? 1}
            onChange={(e) => onChange({ ...who, number: amount(e.target.value, 2000) })}
          />
        </label>
      )}
      {counted && (
        <>
          <label className={row}>
            <span className="text-soft">What must win</span>
            <Select
              value={who.wins ?? ""}
              onPick={(wins) => onChange({ ...without(who, "wins"), ...(wins ? { wins } : {}) })}
              empty="any answer that agrees"
              options={answers.map((a) => ({ value: a.id, label: a.label }))}
            />
          </label>
          <label className={row}>
            <span className="text-soft">It is decided</span>
            <Select
              value={who.waits ? "all" : ""}
              onPick={(v) => onChange({ ...without(who, "waits"), ...(v ? { waits: true } : {}) })}
              empty={who.how === "order" ? "at the first who does not agree" : "as soon as it is certain"}
              options={[{ value: "all", label: "when everybody has answered" }]}
            />
          </label>
          <label className={row}>
            <span className="text-soft">When as many</span>
            <Select
              value={who.ties ?? ""}
              onPick={(v) => onChange({ ...without(who, "ties"), ...(v ? { ties: "first" } : {}) })}
              empty="the answer standing last counts"
              options={[{ value: "first", label: "the answer standing first counts" }]}
            />
          </label>
        </>
      )}
    </>
  );
}

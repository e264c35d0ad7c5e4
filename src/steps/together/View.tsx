"use client";
import { GitFork } from "lucide-react";
import { YESNO } from "@/core/expression";
import type { StepOf } from "@/core/route";
import { Select } from "@/ui";
import {
  Chip,
  ConditionHead,
  FormulaCell,
  StepName,
  TextCell,
  useDraft,
  useNamesHere,
} from "@/workshop/parts";
import type { ListHeadProps, SentenceProps, StepView } from "../view";

type Together = StepOf<"together">;

const row = "grid grid-cols-[8.5rem_minmax(0,1fr)] items-center gap-x-2";

/** When it goes on, as it reads at rest: "goes on with the first, the others are called off". */
function waitsText({ needs, until, othersRunOn }: Together): string {
  const count = needs === 1 ? "with the first" : `with ${needs} of them`;
  const when = [needs !== undefined && count, until !== undefined && `when ${until || "?"}`].filter(Boolean);
  if (when.length === 0) return "all are waited for";
  return `goes on ${when.join(" or ")}; the others ${othersRunOn ? "run on" : "are called off"}`;
}

/** The kinds of waiting one picks from; a condition may stand beside a number. */
function kindOf({ needs, until }: Together) {
  if (until !== undefined) return "until";
  if (needs === undefined) return "all";
  return needs === 1 ? "first" : "some";
}
const PATCHES = {
  all: { needs: null, until: null, othersRunOn: null },
  first: { needs: 1, until: null },
  some: { needs: 2, until: null },
  until: { needs: null, until: "" },
} as const;

function WaitsChip({ step, scope }: SentenceProps<"together">) {
  const d = useDraft();
  const names = useNamesHere();
  const put = (patch: { [K in keyof Together]?: Together[K] | null }) =>
    d.edit({ op: "step.set", id: step.id, patch });
  const kind = kindOf(step);
  return (
    <Chip text={waitsText(step)} label="When it goes on" empty={step.until === ""} width={520}>
      {() => (
        <div className="grid gap-1.5 text-sm">
          <label className={row}>
            <span className="text-soft">Goes on</span>
            <Select
              value={kind}
              onPick={(k) => put(PATCHES[k as keyof typeof PATCHES])}
              options={[
                { value: "all", label: "when all branches have ended" },
                { value: "first", label: "with the first that ends" },
                { value: "some", label: "when so many have ended" },
                { value: "until", label: "when a condition holds" },
              ]}
            />
          </label>
          {kind === "some" && (
            <div className={row}>
              <span className="text-soft">How many</span>
              <TextCell
                className="input w-20"
                inputMode="numeric"
                aria-label={`How many of ${step.branches.length} branches`}
                value={String(step.needs)}
                onCommit={(t) => {
                  const n = Number(t.trim());
                  if (!/^\d{1,2}$/.test(t.trim()) || n < 1 || n > 50) return false;
                  put({ needs: n });
                  return true;
                }}
              />
            </div>
          )}
          {kind === "until" && (
            <div className={row}>
              <span className="text-soft">When</span>
              <FormulaCell
                label="When enough branches have ended"
                placeholder={'e.g. Security.answer = "Approve"'}
                value={step.until ?? ""}
                scope={scope}
                wanted={YESNO}
                names={names}
                onCommit={(until) => put({ until })}
              />
            </div>
          )}
          {kind !== "all" && (
            <label className={row}>
              <span className="text-soft">The others</span>
              <Select
                value={step.othersRunOn ? "on" : "off"}
                onPick={(v) => put({ othersRunOn: v === "on" ? true : null })}
                options={[
                  { value: "off", label: "are called off" },
                  { value: "on", label: "run on beside what follows" },
                ]}
              />
            </label>
          )}
          {kind === "until" && (
            <p className="text-soft">
              Asked whenever a branch has ended; with the last it goes on in any case.
            </p>
          )}
        </div>
      )}
    </Chip>
  );
}

function Sentence(p: SentenceProps<"together">) {
  return (
    <>
      <StepName step={p.step} />
      {p.step.branches.length} branches at the same time, <WaitsChip {...p} />
    </>
  );
}

function ListHead({ step, list: branch, scope }: ListHeadProps<"together">) {
  return (
    <ConditionHead
      step={step.id}
      list={branch}
      scope={scope}
      what="branch"
      forOthers={false}
      placeholder="always"
      tail={branch.steps.length === 0 ? <span className="text-faint">no steps yet</span> : null}
    />
  );
}

export const view: StepView<"together"> = { icon: GitFork, Sentence, ListHead };

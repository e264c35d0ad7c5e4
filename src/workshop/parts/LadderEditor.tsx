"use client";
import { useMemo } from "react";
import { RouteScopes, type Ladder } from "@/core/route";
import { KINDS } from "@/kinds";
import { useDraft } from "../draft/DraftProvider";
import { LadderForAll } from "./LadderForAll";
import { deedsOfLadder } from "./ladderDeeds";
import { ladderUsers } from "./ladderUsers";
import { Rungs } from "./Rungs";
import { TextCell } from "./TextCell";

/** A ladder kept by name: what it is called, which limits go by it, and its rungs. */
export function LadderEditor({ ladder, falls }: { ladder: Ladder; falls?(rung: string): string }) {
  const d = useDraft();
  const { definition } = d;
  const { registers } = d.office;
  const scope = useMemo(
    () =>
      new RouteScopes(definition, { registers, kinds: KINDS }).of(
        { kind: "ladder", id: ladder.id },
        undefined,
      ).scope,
    [definition, registers, ladder.id],
  );
  const users = ladderUsers(definition, ladder.id);
  return (
    <div className="grid gap-1.5">
      <TextCell
        className="input"
        aria-label="Name of the ladder"
        value={ladder.name}
        onCommit={(t) =>
          t.trim()
            ? void d.edit({ op: "ladder.put", after: null, ladder: { ...ladder, name: t.trim() } })
            : false
        }
      />
      <p className="text-sm text-soft">
        {users.said
          ? `What is changed here is changed for all that go by it: ${users.said}.`
          : "No limit goes by it yet."}
      </p>
      <Rungs
        id={ladder.id}
        rungs={ladder.rungs}
        answers={[]}
        scope={scope}
        {...(falls ? { falls } : {})}
        deeds={deedsOfLadder(ladder, d.edit)}
      />
      <LadderForAll ladder={ladder} />
    </div>
  );
}

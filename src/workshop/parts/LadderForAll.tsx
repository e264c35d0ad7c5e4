"use client";
import type { Ladder } from "@/core/route";
import { useDraft } from "../draft/DraftProvider";
import { ForAll } from "./ForAll";

/** Keeps a ladder for all processes, and takes what has become of the rungs it was taken with. */
export function LadderForAll({ ladder }: { ladder: Ladder }) {
  const { office, keepLadder, edit } = useDraft();
  const { from } = ladder;
  const kept = office.ladders.find((k) => k.id === from?.ladder);
  const put = (next: Ladder) => void edit({ op: "ladder.put", after: null, ladder: next });
  return (
    <p className="flex flex-wrap gap-x-5 text-sm">
      <ForAll
        name={ladder.name}
        taken={from !== undefined}
        newer={
          kept && from && kept.version > from.version ? "Its rungs for all have changed: take them" : null
        }
        keep={() => keepLadder(ladder.id)}
        onKept={(of) => put({ ...ladder, from: of })}
        onTake={() =>
          kept &&
          put({ ...ladder, rungs: kept.ladder.rungs, from: { ladder: kept.id, version: kept.version } })
        }
      />
    </p>
  );
}

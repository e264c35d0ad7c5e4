import {
  samplePath,
  type CompiledRelease,
  type EngineFacts,
  type SamplePath,
  type StuckReason,
} from "@/core/engine";
import { isHeading, stepKind } from "@/core/kinds";
import type { Sample, StepPlace } from "@/core/route";
import { KINDS } from "@/kinds";

/** What a sample comes to at a step that asks people; null where it does not come there. */
export type Asked = { people: readonly string[]; due: number | null } | { stuck: StuckReason } | null;
export interface AskedRow {
  id: string;
  number: string;
  name: string;
  /** In the order of the samples. */
  by: Asked[];
}
export interface AskedWhen {
  samples: readonly Sample[];
  /** Of each sample why it was not followed to its end; null where it was. */
  stops: (string | null)[];
  rows: AskedRow[];
  /** People outside whom any of them asks. */
  outsiders: SamplePath["outsiders"];
}

/** Who is asked at which step, and until when, for samples whose people all agree. */
export function askedWhen(
  release: CompiledRelease,
  samples: readonly Sample[],
  facts: EngineFacts,
): AskedWhen {
  const paths = samples.map((s) => samplePath(release, s.requester, s.data, facts));
  const row = ({ step, number }: StepPlace): AskedRow => ({
    id: step.id,
    number,
    name: step.name,
    by: paths.map((p): Asked => {
      const asked = p.asked[step.id];
      if (p.stuck && p.steps.at(-1) === step.id) return { stuck: p.stuck };
      return asked ? { people: [...new Set(asked.people)], due: asked.due } : null;
    }),
  });
  return {
    samples,
    outsiders: Object.assign({}, ...paths.map((p) => p.outsiders)) as SamplePath["outsiders"],
    stops: paths.map((p) => (p.stuck ? null : p.stop)),
    rows: [...release.places.values()]
      .filter(({ step }) => !isHeading(KINDS, step) && stepKind(KINDS, step).asks)
      .map(row),
  };
}

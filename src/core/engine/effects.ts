import type { EffectKind, WorkOf } from "@/steps/shapes";

/**
 * Something asked of the world. The id stays over every retry, so that an outside service never takes one for new.
 * Who carries it out, in the command's transaction or by a job, is said by the kind's own effect.
 */
export type EffectOf<K extends EffectKind> = WorkOf<K> & {
  id: string;
  step: string;
  /** The round that asked; absent outside of all rounds. */
  scope?: string;
};
export type Effect = EffectOf<EffectKind>;

import type { Draft } from "./draft";

/** Holds the draft outside React's tree, so that each part of a sheet follows only what it shows. */
export class DraftStore {
  private readonly listeners = new Set<() => void>();
  constructor(private now: Draft) {}
  readonly get = (): Draft => this.now;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  publish(next: Draft) {
    if (next === this.now) return;
    this.now = next;
    for (const l of this.listeners) l();
  }
}

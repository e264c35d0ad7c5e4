/** How many calls may come at once, and how many a second after that. */
export interface PaceLimit {
  burst: number;
  perSecond: number;
}

/** So many a minute, up to a quarter of it at once. */
export const callPace = (perMinute: number): PaceLimit => ({
  burst: Math.max(10, Math.ceil(perMinute / 4)),
  perSecond: perMinute / 60,
});

/**
 * Limits by a bucket a name (token bucket): each holds `burst` calls and fills up again by `perSecond`. It lives in one
 * process, so that a limit costs no round trip; with n web processes up to n times as much is let through.
 */
export class Pace {
  private readonly buckets = new Map<string, { left: number; at: number }>();

  /** @param most buckets kept; those unused longest give way, as they are full again anyway */
  constructor(
    private readonly limit: PaceLimit,
    private readonly most = 10_000,
  ) {}

  /**
   * Takes one call.
   * @param now milliseconds of any steady clock
   * @returns 0 when it may go on, else whole seconds until the next one may
   */
  take(name: string, now: number): number {
    const { burst, perSecond } = this.limit;
    const old = this.buckets.get(name);
    const left = Math.min(burst, (old?.left ?? burst) + ((now - (old?.at ?? now)) / 1000) * perSecond);
    this.buckets.delete(name);
    this.buckets.set(name, { left: left >= 1 ? left - 1 : left, at: now });
    if (this.buckets.size > this.most) this.buckets.delete(this.buckets.keys().next().value!);
    return left >= 1 ? 0 : Math.max(1, Math.ceil((1 - left) / perSecond));
  }
}

/** So many of something at once, per name and in all: bodies being read, streams being held open. */
export class Slots {
  private readonly taken = new Map<string, number>();
  private all = 0;

  constructor(
    private readonly each: number,
    private readonly inAll: number,
  ) {}

  /** @returns what gives the slot back, or null where none is free */
  take(name: string): (() => void) | null {
    const now = this.taken.get(name) ?? 0;
    if (now >= this.each || this.all >= this.inAll) return null;
    this.taken.set(name, now + 1);
    this.all++;
    let given = false;
    return () => {
      if (given) return;
      given = true;
      this.all--;
      const left = this.taken.get(name)! - 1;
      if (left > 0) this.taken.set(name, left);
      else this.taken.delete(name);
    };
  }
}

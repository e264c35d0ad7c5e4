/** What came of a try: kept; to be tried again; or given up, with all that waits behind it. */
export type SaveResult = "saved" | "later" | "dropped";

export interface Saving<W> {
  /** How long nothing must be added before it is sent, and how long after a failure it is sent again. */
  waitMs: number;
  retryMs: number;
  /** What is sent where `later` comes while `earlier` still waits. */
  join(earlier: W, later: W): W;
  /** A rejection counts as "later". */
  save(work: W): Promise<SaveResult>;
}

/**
 * Sends what somebody does to the server shortly after they pause, one after the other: an older state that arrives
 * later would replace the newer one. What could not be sent is joined with what came since, and sent again.
 */
export class SaveQueue<W> {
  readonly #how: Saving<W>;
  #waiting: { work: W } | null = null;
  #under = 0;
  #stopped = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(how: Saving<W>) {
    this.#how = how;
  }

  /** Whether everything has been sent. */
  get idle(): boolean {
    return this.#waiting === null && this.#under === 0;
  }

  add(work: W): void {
    this.#waiting = { work: this.#waiting ? this.#how.join(this.#waiting.work, work) : work };
    this.#arm(this.#how.waitMs);
  }

  /**
   * Sends what waits now.
   * @param overtake even while something is under way: for a page that goes away and cannot wait
   */
  async flush(overtake = false): Promise<void> {
    if (this.#stopped || !this.#waiting || (this.#under > 0 && !overtake)) return;
    clearTimeout(this.#timer);
    const { work } = this.#waiting;
    this.#waiting = null;
    this.#under++;
    const result = await this.#how.save(work).catch(() => "later" as const);
    this.#under--;
    switch (result) {
      case "saved":
        return this.flush();
      case "later": {
        // Read anew: more may have come while it was under way.
        const since = this.#waiting as { work: W } | null;
        this.#waiting = { work: since ? this.#how.join(work, since.work) : work };
        return this.#arm(this.#how.retryMs);
      }
      case "dropped":
        this.#waiting = null;
        return;
    }
  }

  /** Nothing is sent from now on, not even what waits. */
  stop(): void {
    this.#stopped = true;
    clearTimeout(this.#timer);
  }

  #arm(ms: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.flush(), ms);
  }
}

/** A small seeded generator (mulberry32), so that demo data are the same on every machine. */
export class Random {
  constructor(private state: number) {}
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  int(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)]!;
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  /** Reaction times are skewed: mostly quick, some slow. Median `median`, in the same unit. */
  skewed(median: number, spread = 0.8): number {
    const normal = Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
    return median * Math.exp(spread * normal);
  }
}

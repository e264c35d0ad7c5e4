/** Thrown inside and caught by evaluate(): the work asked for is more than a formula may do. */
export class OutOfFuel extends Error {}

let current: { left: number } | null = null;

/**
 * Sets whose allowance structural work (comparing, walking nested lists) is taken from; gives what it was before,
 * to be put back. Lists that hold one another twice at each level are small in memory and endless to walk, so that
 * every walk must be counted, however deep it stands from the formula that asked for it.
 */
export function meterBy(fuel: { left: number } | null): { left: number } | null {
  const before = current;
  current = fuel;
  return before;
}

/** Takes steps from the allowance of the formula being evaluated; nothing outside of one. */
export function spend(steps: number): void {
  if (current !== null && (current.left -= steps) < 0) throw new OutOfFuel();
}

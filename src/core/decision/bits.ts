/** A set of small numbers, as bits in words of 32. */
export type Bits = Uint32Array;

export const noBits = (size: number): Bits => new Uint32Array(Math.ceil(size / 32));

export function allBits(size: number): Bits {
  const out = noBits(size);
  for (let i = 0; i < size; i++) put(out, i);
  return out;
}

export function put(b: Bits, i: number): void {
  b[i >> 5]! |= 1 << (i & 31);
}
export const has = (b: Bits, i: number): boolean => (b[i >> 5]! & (1 << (i & 31))) !== 0;

export function both(a: Bits, b: Bits): Bits {
  const out = new Uint32Array(a.length);
  for (let w = 0; w < a.length; w++) out[w] = a[w]! & b[w]!;
  return out;
}

export function meet(a: Bits, b: Bits): boolean {
  for (let w = 0; w < a.length; w++) if ((a[w]! & b[w]!) !== 0) return true;
  return false;
}

export function isNone(b: Bits): boolean {
  for (let w = 0; w < b.length; w++) if (b[w] !== 0) return false;
  return true;
}

/** Whether all of one are in the other. */
export function inside(a: Bits, b: Bits): boolean {
  for (let w = 0; w < a.length; w++) if ((a[w]! & ~b[w]!) !== 0) return false;
  return true;
}

export function membersOf(b: Bits): number[] {
  const out: number[] = [];
  for (let w = 0; w < b.length; w++)
    for (let x = b[w]!; x !== 0; x &= x - 1) out.push(w * 32 + 31 - Math.clz32(x & -x));
  return out;
}

/** The first number that is in both; -1 for none. */
export function firstInBoth(a: Bits, b: Bits): number {
  for (let w = 0; w < a.length; w++) {
    const x = a[w]! & b[w]!;
    if (x !== 0) return w * 32 + 31 - Math.clz32(x & -x);
  }
  return -1;
}

export function countOf(b: Bits): number {
  let n = 0;
  for (let w = 0; w < b.length; w++) for (let x = b[w]!; x !== 0; x &= x - 1) n++;
  return n;
}

/** Tells sets of one size apart: their bits read as characters, which is made faster than numbers are written. */
export const keyOf = (b: Bits): string =>
  String.fromCharCode(...new Uint16Array(b.buffer, b.byteOffset, b.length * 2));

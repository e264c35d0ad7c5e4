export interface BodyLimits {
  /** Bytes. */
  most: number;
  /** Milliseconds in which nothing comes. */
  pause: number;
  /** Milliseconds for all of it. */
  whole: number;
}
/** Time for what is sent: a page of text or a sheet, and a file, which at its largest may come at 1.7 Mbit/s. */
export const PAUSE_MS = 10_000;
export const WHOLE_MS = 120_000;
export const FILE_WHOLE_MS = 480_000;

export type NotRead = { ok: false; why: "too large" | "too slow" };
export type Body = { ok: true; bytes: Buffer } | NotRead;

/** Reads a body up to its limits into memory. */
export async function readBody(body: AsyncIterable<Uint8Array>, limits: BodyLimits): Promise<Body> {
  const parts: Uint8Array[] = [];
  const read = await takeBody(body, limits, async (part) => void parts.push(part));
  return read.ok ? { ok: true, bytes: Buffer.concat(parts) } : read;
}

/**
 * Reads a body up to its limits, and hands on each part of it. What is too long is not read to its end; whoever sends a byte
 * now and then to keep us waiting is left.
 */
export async function takeBody(
  body: AsyncIterable<Uint8Array>,
  limits: BodyLimits,
  take: (part: Uint8Array) => Promise<void>,
): Promise<{ ok: true } | NotRead> {
  let size = 0;
  const end = performance.now() + limits.whole;
  const reading = body[Symbol.asyncIterator]();
  for (;;) {
    const next = await within(reading.next(), Math.min(limits.pause, end - performance.now()));
    if (next === "late") {
      // Not waited for: what never sends never returns either.
      void Promise.resolve(reading.return?.()).catch(() => undefined);
      return { ok: false, why: "too slow" };
    }
    if (next.done) return { ok: true };
    size += next.value.length;
    if (size > limits.most) {
      void Promise.resolve(reading.return?.()).catch(() => undefined);
      return { ok: false, why: "too large" };
    }
    await take(next.value);
  }
}

async function within<T>(promise: Promise<T>, ms: number): Promise<T | "late"> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<"late">((resolve) => {
    timer = setTimeout(() => resolve("late"), Math.max(0, ms));
  });
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(timer);
    promise.catch(() => undefined);
  }
}

/** The same bytes in parts of one size; the last may have fewer. */
export async function* inParts(bytes: AsyncIterable<Uint8Array>, size: number): AsyncGenerator<Buffer> {
  let held: Uint8Array[] = [];
  let length = 0;
  for await (const part of bytes) {
    held.push(part);
    length += part.length;
    if (length < size) continue;
    const all = Buffer.concat(held, length);
    let at = 0;
    for (; length - at >= size; at += size) yield all.subarray(at, at + size);
    held = at === length ? [] : [all.subarray(at)];
    length -= at;
  }
  if (length > 0) yield Buffer.concat(held, length);
}

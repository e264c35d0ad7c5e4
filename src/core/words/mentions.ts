interface Named {
  id: string;
  name: string;
}
export interface Mentions {
  /** Ids, in the order in which they are mentioned first. */
  people: string[];
  /** Names after an @ that several people have, so that nobody is meant. */
  several: string[];
}

const LETTER = /[\p{L}\p{N}]/u;

/** Where somebody is mentioned: an @ that begins a word, with the longest name of anybody behind it. */
export function mentionsIn(text: string, people: readonly Named[]): Mentions {
  const by = new Map<string, string[]>();
  for (const p of people) {
    const name = p.name.trim().toLowerCase();
    if (name) by.set(name, [...(by.get(name) ?? []), p.id]);
  }
  const longest = Math.max(0, ...[...by.keys()].map((n) => n.length));
  const out: Mentions = { people: [], several: [] };
  for (const { index } of text.matchAll(/@/g)) {
    if (index > 0 && LETTER.test(text[index - 1]!)) continue;
    const behind = text.slice(index + 1, index + 1 + longest);
    for (let n = behind.length; n > 0; n--) {
      const ids = by.get(behind.slice(0, n).toLowerCase());
      if (!ids || LETTER.test(text[index + 1 + n] ?? "")) continue;
      if (ids.length > 1) out.several.push(behind.slice(0, n));
      else if (!out.people.includes(ids[0]!)) out.people.push(ids[0]!);
      break;
    }
  }
  return out;
}

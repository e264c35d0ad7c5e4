/**
 * A name in lines of at most so many letters, broken between words where it can be. What does not fit into `most` lines
 * stays in the last one: a label that is too long is better than one that is cut.
 */
export function wrapped(name: string, letters: number, most: number): string[] {
  const room = Math.max(letters, 6);
  const lines: string[] = [];
  let line = "";
  for (const word of name.split(/\s+/).filter(Boolean)) {
    let rest = word;
    if (line && line.length + 1 + rest.length <= room) {
      line += ` ${rest}`;
      continue;
    }
    if (line) lines.push(line);
    while (rest.length > room) {
      lines.push(`${rest.slice(0, room - 1)}-`);
      rest = rest.slice(room - 1);
    }
    line = rest;
  }
  if (line) lines.push(line);
  return lines.length <= most ? lines : [...lines.slice(0, most - 1), lines.slice(most - 1).join(" ")];
}

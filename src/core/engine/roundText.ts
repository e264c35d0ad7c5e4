import type { Scope } from "./state";

type Told = Pick<Scope, "parent" | "one" | "index" | "of" | "name">;

/** What a round is called, those around it first: "Object 3 of 7: Rope makers". */
export function roundText(scopes: Readonly<Record<string, Told>>, id: string): string {
  const scope = scopes[id];
  if (!scope) return "";
  const around = scope.parent === null ? "" : roundText(scopes, scope.parent);
  return around ? `${around} · ${roundWords(scope)}` : roundWords(scope);
}
export const roundWords = ({ one, index, of, name }: Omit<Told, "parent">): string =>
  `${one} ${index + 1} of ${of}${name ? `: ${name}` : ""}`;

const BROWSERS = [
  [/\bEdg(?:e|A|iOS)?\//, "Edge"],
  [/\bOPR\//, "Opera"],
  [/\bFirefox\/|\bFxiOS\//, "Firefox"],
  [/Chrom(?:e|ium)\/|\bCriOS\//, "Chrome"],
  [/\bSafari\//, "Safari"],
] as const;
const SYSTEMS = [
  [/\bAndroid\b/, "Android"],
  [/\biPhone\b|\biPad\b/, "iOS"],
  [/\bWindows\b/, "Windows"],
  [/\bMac OS X\b/, "macOS"],
  [/\bLinux\b/, "Linux"],
] as const;

/** What a browser calls itself, in words; only for people to know their own ones by. */
export function browserName(agent: string): string {
  const of = (list: typeof BROWSERS | typeof SYSTEMS) => list.find(([p]) => p.test(agent))?.[1];
  const [browser, system] = [of(BROWSERS), of(SYSTEMS)];
  if (!browser && !system) return agent.slice(0, 40) || "A browser";
  return [browser ?? "A browser", system && `on ${system}`].filter(Boolean).join(" ");
}

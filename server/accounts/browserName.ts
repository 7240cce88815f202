const BROWSERS: [RegExp, string][] = [
  [/\bEdg(e|A|iOS)?\//, "Edge"],
  [/\b(Firefox|FxiOS)\//, "Firefox"],
  [/(Chrome|Chromium|CriOS)\//, "Chrome or Chromium"],
  [/\bSafari\//, "Safari"],
];
const SYSTEMS: [RegExp, string][] = [
  [/\b(iPhone|iPad)\b/, "iOS"],
  [/\bAndroid\b/, "Android"],
  [/\bWindows\b/, "Windows"],
  [/\bMac OS X\b/, "macOS"],
  [/\bLinux\b/, "Linux"],
];

const named = (list: readonly [RegExp, string][], text: string) => list.find(([sign]) => sign.test(text))?.[1];

/** What a browser calls itself, in a few words a person knows it by; it may say anything. */
export function browserName(agent: string): string {
  const [browser, system] = [named(BROWSERS, agent), named(SYSTEMS, agent)];
  if (!browser && !system) return agent.slice(0, 40) || "an unnamed browser";
  return [browser ?? "a browser", system].filter(Boolean).join(" on ");
}

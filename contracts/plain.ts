/** How deep data from elsewhere may be nested, and of how many values it may consist. */
const DEEPEST = 24;
const MOST = 200_000;
/** Names under which every object has something of its own: whoever walks a value takes them for that. */
const REACHING = new Set(["__proto__", "constructor", "prototype"]);

/**
 * Why a value from elsewhere is not looked at any further, in a sentence; nothing when it may be. Asked before anything
 * walks it recursively or stores it: too deep or too large, text that is none (half of a pair of UTF-16 units, which no
 * database of texts takes), a name that would reach into every object.
 */
export function plainFault(value: unknown): string | undefined {
  const left: [unknown, number][] = [[value, 0]];
  let count = 0;
  for (let next = left.pop(); next; next = left.pop()) {
    const [one, depth] = next;
    if (++count > MOST) return `More than ${MOST.toLocaleString("en")} values were sent.`;
    if (typeof one === "string" && !one.isWellFormed()) return "A text holds half a letter.";
    if (typeof one !== "object" || one === null) continue;
    if (depth >= DEEPEST) return `What was sent is nested more than ${DEEPEST} deep.`;
    if (Array.isArray(one)) {
      if (count + left.length + one.length > MOST) return `More than ${MOST.toLocaleString("en")} values were sent.`;
      for (const part of one as unknown[]) left.push([part, depth + 1]);
      continue;
    }
    for (const name of Object.keys(one)) {
      if (REACHING.has(name)) return `A field cannot be named "${name}".`;
      if (!name.isWellFormed()) return "A text holds half a letter.";
      left.push([(one as Record<string, unknown>)[name], depth + 1]);
    }
  }
  return undefined;
}

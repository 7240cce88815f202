/** Text that is HTML already. */
export class Html {
  constructor(readonly text: string) {}
}

type Part = string | number | Html | readonly Part[] | undefined;

const ESCAPES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;", "'": "&#39;" };

export const escaped = (text: string): string => text.replace(/[&<>"']/g, (one) => ESCAPES[one]);

const textOf = (part: Part): string => {
  if (part === undefined) return "";
  if (part instanceof Html) return part.text;
  return Array.isArray(part) ? part.map(textOf).join("") : escaped(String(part as string | number));
};

/** HTML whose parts are escaped, but for those that are HTML already. */
export function html(strings: TemplateStringsArray, ...parts: Part[]): Html {
  return new Html(strings.map((text, i) => text + (i < parts.length ? textOf(parts[i]) : "")).join(""));
}

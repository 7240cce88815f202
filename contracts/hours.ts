import type { Hours } from "#core/series/hours";

/** Hours as an address names them; all of them when it names none. */
export function readHours(text: string | null): Hours {
  return text === "regular" ? "regular" : "all";
}

import type { Hours } from "#core/series/hours";

/** Hours as an address names them; all of them when it names none. */
export function readHours(text: string | null): Hours {
  return text === "regular" ? "regular" : "all";
}

/** The past instant an address looks from (ms UTC); none when it names none or what is no instant. */
export function readAsOf(text: string | null): number | undefined {
  return text !== null && /^\d{1,14}$/.test(text) ? Number(text) : undefined;
}

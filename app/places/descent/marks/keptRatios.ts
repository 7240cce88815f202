const STORED = "compass-ratios";

/** The ratios an analyst last gave each kind of mark, in this browser: the next one of it begins with them. */
export function keptRatios(kind: string): number[] | undefined {
  const ratios = read()[kind];
  return Array.isArray(ratios) && ratios.every((one) => typeof one === "number") ? ratios : undefined;
}

export function keepRatios(kind: string, ratios: readonly number[]): void {
  try {
    localStorage.setItem(STORED, JSON.stringify({ ...read(), [kind]: ratios }));
  } catch {
    // The mark itself keeps them; only the next one begins as usual.
  }
}

function read(): Record<string, unknown> {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(STORED) ?? "{}");
    return typeof stored === "object" && stored !== null ? (stored as Record<string, unknown>) : {};
  } catch {
    return {};
  }
}

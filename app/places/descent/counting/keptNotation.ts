import { readNotation, type Notation } from "#core/waves/notation";

const STORED = "compass-notation";

/** How the analyst writes degrees, as last chosen in this browser: new counts begin with it. */
export function keptNotation(): Partial<Notation> | undefined {
  try {
    return readNotation(JSON.parse(localStorage.getItem(STORED) ?? "null"));
  } catch {
    return undefined;
  }
}

export function keepNotation(notation: Partial<Notation>): void {
  try {
    localStorage.setItem(STORED, JSON.stringify(notation));
  } catch {
    // The count itself keeps it; only the next one begins as usual.
  }
}

/**
 * A typed number: a true minus, thin and ordinary spaces between thousands, and a decimal comma are all accepted.
 * NaN for anything else, and for "1,234.5" and "1.234,5", whose marks contradict each other.
 */
export function parseNumber(text: string): number {
  const plain = text
    .trim()
    .replace(/[\u2009\u202f\u00a0\s]/g, "")
    .replace(/\u2212/g, "-");
  const point = plain.includes(".") ? plain : plain.replace(",", ".");
  return /^-?(\d+\.?\d*|\.\d+)$/.test(point) ? Number(point) : NaN;
}

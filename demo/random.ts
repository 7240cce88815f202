/** A small seeded generator (sfc32): the same seed gives the same world on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  next(): number;
  between(low: number, high: number): number;
  /** Standard normal (Box and Muller 1958). */
  normal(): number;
}

export function seeded(seed: string): Random {
  let [a, b, c, d] = [0x9e3779b9, 0x243f6a88, 0xb7e15162, 1];
  const next = () => {
    const t = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = ((c << 21) | (c >>> 11)) + t;
    c |= 0;
    return (t >>> 0) / 4294967296;
  };
  for (const letter of seed) {
    a = (Math.imul(a ^ letter.charCodeAt(0), 0x85ebca6b) ^ b) | 0;
    next();
  }
  for (let i = 0; i < 20; i++) next();
  return {
    next,
    between: (low, high) => low + (high - low) * next(),
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}

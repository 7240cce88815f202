/**
 * Moves labels along one axis so that none overlaps another, as little as possible (each cluster is centred on the
 * mean of what its members wanted). Returns the new centres in the order given.
 */
export function declutter(wanted: readonly number[], size: number, from: number, to: number): number[] {
  const order = wanted.map((_, i) => i).sort((a, b) => wanted[a] - wanted[b]);
  const clusters: { members: number[]; start: number }[] = [];
  for (const i of order) {
    clusters.push(centred([i], wanted, size, from, to));
    while (clusters.length > 1) {
      const [a, b] = clusters.slice(-2);
      if (a.start + a.members.length * size <= b.start) break;
      clusters.splice(-2, 2, centred([...a.members, ...b.members], wanted, size, from, to));
    }
  }
  const out = new Array<number>(wanted.length);
  for (const { members, start } of clusters) members.forEach((i, n) => (out[i] = start + (n + 0.5) * size));
  return out;
}

function centred(members: number[], wanted: readonly number[], size: number, from: number, to: number) {
  const length = members.length * size;
  const middle = members.reduce((sum, i, n) => sum + wanted[i] - (n + 0.5) * size, 0) / members.length;
  return { members, start: Math.max(from, Math.min(middle, to - length)) };
}

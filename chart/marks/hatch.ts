interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Parallel lines at 45 degrees across a box, `apart` pixels from each other, clipped to it. */
export function hatch({ left, right, top, bottom }: Box, lean: "rising" | "falling", apart: number): number[][] {
  const height = bottom - top;
  if (height < 2) return [];
  const lines: number[][] = [];
  // The pattern hangs on absolute positions, so that it stands still while the box is stretched.
  const first = Math.floor((left - height) / apart) * apart;
  for (let x = first; x < right; x += apart) {
    const from = Math.max(x, left);
    const to = Math.min(x + height, right);
    if (to <= from) continue;
    const rise = (at: number) => (lean === "rising" ? bottom - (at - x) : top + (at - x));
    lines.push([from, rise(from), to, rise(to)]);
  }
  return lines;
}

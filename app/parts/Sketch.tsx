/** A few strokes of ink: where a market came from. Decoration; the figures stand beside it. */
export function Sketch({
  values,
  width = 96,
  height = 26,
}: {
  values: readonly number[];
  width?: number;
  height?: number;
}) {
  if (values.length < 2) return <svg width={width} height={height} aria-hidden="true" />;
  const low = Math.min(...values);
  const span = Math.max(...values) - low || 1;
  const points = values.map((value, i) => {
    const x = (i / (values.length - 1)) * (width - 2) + 1;
    return `${x.toFixed(1)},${(height - 2 - ((value - low) / span) * (height - 4)).toFixed(1)}`;
  });
  return (
    <svg width={width} height={height} aria-hidden="true" style={{ display: "block" }}>
      <polyline points={points.join(" ")} fill="none" stroke="currentColor" strokeWidth="1.2" />
    </svg>
  );
}

import type { Direction } from "#core/marks/bearing";

const TURN: Record<Direction, number> = { up: -40, sideways: 0, down: 40 };

/**
 * Which way a rung is held to go, as a short needle; its tip is the filled half. `bare` where words beside it say the
 * same.
 */
export function Needle({ direction, bare = false }: { direction: Direction; bare?: boolean }) {
  return (
    <svg
      width="18"
      height="18"
      viewBox="-9 -9 18 18"
      {...(bare ? { "aria-hidden": true } : { role: "img", "aria-label": `Bearing ${direction}` })}
    >
      <g transform={`rotate(${TURN[direction]})`} stroke="currentColor" strokeWidth="1">
        <path d="M-8 0 L0 -2.2 L0 2.2 Z" fill="none" />
        <path d="M8 0 L0 -2.2 L0 2.2 Z" fill="currentColor" />
      </g>
    </svg>
  );
}

export function named(direction: Direction): string {
  return { up: "Up", down: "Down", sideways: "Sideways" }[direction];
}

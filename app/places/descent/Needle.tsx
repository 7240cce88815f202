import type { Direction } from "#core/marks/bearing";

const TURN: Record<Direction, number> = { up: -40, sideways: 0, down: 40 };

/** Which way a rung is held to go, as a short needle; its tip is the filled half. */
export function Needle({ direction }: { direction: Direction }) {
  return (
    <svg width="18" height="18" viewBox="-9 -9 18 18" role="img" aria-label={`Bearing ${direction}`}>
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

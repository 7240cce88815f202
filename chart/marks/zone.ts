import type { BandState } from "#core/levels/band";
import { bandOf, zoneName, type ZoneProps } from "#core/marks/zone";
import { stateText } from "#core/marks/level";
import type { Shape } from "../shapes.ts";
import type { Draw } from "./drawing.ts";
import { hatch } from "./hatch.ts";

/** Both edges and a hatch: rising for demand, falling for supply; used-up zones keep grey edges only. */
export const drawZone: Draw<ZoneProps, BandState> = (mark, life, { scale, indexOf, selected, origin, hatchApart }) => {
  const band = bandOf(mark);
  if (!band) return [];
  const left = Math.max(scale.plot.left, scale.x(indexOf(mark.anchors[0].time)));
  const right = scale.plot.left + scale.plot.width;
  const top = Math.round(scale.y(band.top)) + 0.5;
  const bottom = Math.round(scale.y(band.bottom)) + 0.5;
  if (left >= right) return [];
  const pigment = life.dead ? "ink3" : band.side === "demand" ? "indigo" : "ochre";
  const near = band.side === "demand" ? top : bottom;
  const far = band.side === "demand" ? bottom : top;
  const words = [zoneName(mark.props.of, band.side).toLowerCase(), origin, stateText(life.state, true)]
    .filter(Boolean)
    .join(", ");
  // Only as much of it as is in sight: a zone may be higher than the plot.
  const { plot } = scale;
  const seen = {
    left,
    right,
    top: Math.max(top, plot.top - 10),
    bottom: Math.min(bottom, plot.top + plot.height + 10),
  };
  const lines = life.dead ? [] : hatch(seen, band.side === "demand" ? "rising" : "falling", hatchApart);
  const shapes: Shape[] = [
    { kind: "path", paths: [[left, near, right, near]], stroke: pigment, width: selected ? 2.2 : 1.4 },
    { kind: "path", paths: [[left, far, right, far]], stroke: pigment, width: selected ? 1.6 : 0.8 },
    { kind: "path", paths: lines, stroke: pigment, width: 0.7, opacity: 0.45 },
    {
      kind: "text",
      x: right - 6,
      y: band.side === "demand" ? bottom + 3 : top - 3,
      text: words,
      color: pigment,
      size: 11.5,
      movable: true,
      slides: right - left - 120,
      align: "right",
      baseline: band.side === "demand" ? "top" : "bottom",
      halo: "paper",
    },
  ];
  return shapes;
};

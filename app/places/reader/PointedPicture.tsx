import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import type { PictureLayout } from "#core/edition/layouts";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { PAPER } from "../../../chart/palette.ts";
import type { Pointing } from "../../../server/readers/pointing.ts";
import { useTimes } from "../../parts/useTimes.ts";
import { barText, barTime, pointedAt, steppedFrom, type Place, type Pointed } from "./pointed.ts";

interface Props {
  /** Address of the picture without its ending. */
  address: string;
  /** How it is laid out just now. */
  layoutNow: () => PictureLayout;
  market: Pick<MarketFacts, "decimals">;
  rung: string;
  /** Prices that were published of it. */
  places: readonly Place[];
  /** Stands below while nothing is pointed at. */
  caption: ReactNode;
  children: ReactNode;
}

const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, PageUp: -10, PageDown: 10, Home: -1e6, End: 1e6 };

/**
 * A picture one can point at, by pointer, finger or arrow keys: what the bar there was, and which published price is
 * meant. What its places stand for is asked for when somebody first wants to know.
 */
export function PointedPicture({ address, layoutNow, market, rung, places, caption, children }: Props) {
  const { moment } = useTimes();
  const [at, setAt] = useState<Pointed>();
  const known = useRef<{ layout: PictureLayout; pointing: Promise<Pointing | undefined> }>(undefined);
  const pointing = () => {
    const layout = layoutNow();
    if (known.current?.layout !== layout)
      known.current = { layout, pointing: fetchPointing(`${address}.json?layout=${layout}`) };
    return known.current.pointing;
  };
  const read = (found: Pointing, x: number, y: number) => setAt(pointedAt(found, places, x, y));
  const point = async ({ clientX, clientY, currentTarget }: PointerEvent<HTMLElement>) => {
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    const found = await pointing();
    if (found)
      read(found, ((clientX - left) / width) * found.size.width, ((clientY - top) / height) * found.size.height);
  };
  const walk = async (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (event.key === "Escape") setAt(undefined);
    if (step === undefined) return;
    event.preventDefault();
    const found = await pointing();
    if (!found) return;
    const { x, y } = steppedFrom(found, at, step);
    read(found, x, y);
  };
  return (
    <>
      <Box
        tabIndex={0}
        role="group"
        aria-label="Read the picture: arrow keys go from bar to bar"
        onPointerMove={(event) => void point(event)}
        onPointerDown={(event) => void point(event)}
        onPointerLeave={() => setAt(undefined)}
        onKeyDown={(event) => void walk(event)}
        onBlur={() => setAt(undefined)}
        // A finger that goes up or down scrolls the page; one that goes along reads.
        sx={{ position: "relative", mt: 1, touchAction: "pan-y", cursor: "crosshair" }}
      >
        {children}
        {at && <Cross at={at} />}
      </Box>
      <Typography
        variant="caption"
        component="p"
        color="text.secondary"
        aria-live="polite"
        sx={{ mt: 0.5, minHeight: { xs: "4.05em", sm: "1.35em" }, fontVariantNumeric: "tabular-nums" }}
      >
        {at ? (
          <>
            {at.bar && `${barTime(at.bar[0], rung, moment)}: ${barText(at.bar, market)}. `}
            Here {priceText(at.price, market)}
            {at.place ? <>: {at.place.says}</> : "."}
          </>
        ) : (
          caption
        )}
      </Typography>
    </>
  );
}

async function fetchPointing(address: string): Promise<Pointing | undefined> {
  const answer = await fetch(address).catch(() => undefined);
  return answer?.ok ? ((await answer.json()) as Pointing) : undefined;
}

/** Over the picture, in its own pixels. */
function Cross({ at: { x, y, size } }: { at: Pointed }) {
  // The picture is on paper by lamp light as well.
  const line = { stroke: PAPER.ink, strokeWidth: 1, strokeDasharray: "2 3" };
  return (
    <Box
      component="svg"
      viewBox={`0 0 ${size.width} ${size.height}`}
      preserveAspectRatio="none"
      aria-hidden
      sx={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none" }}
    >
      <line x1={x} x2={x} y1={0} y2={size.height} {...line} />
      <line x1={0} x2={size.width} y1={y} y2={y} {...line} />
    </Box>
  );
}

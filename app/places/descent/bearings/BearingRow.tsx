import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { agreementOf } from "#core/finding/agreement";
import type { MachineBearing } from "#core/finding/bearing";
import { bearingsOf, type Direction } from "#core/marks/bearing";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import type { Horizons } from "#core/finding/horizon";
import { dateText } from "../../../parts/times.ts";
import { HorizonLine } from "./HorizonLine.tsx";
import { Needle } from "../rungs/Needle.tsx";

/** What the machine reads on a rung; one without `until` has no bars. */
export interface RungBearing {
  rung: string;
  bearing: MachineBearing;
  until?: number;
}

interface Props {
  market: MarketFacts;
  rungs: readonly RungBearing[];
  marks: readonly Mark[];
  horizons: Horizons;
  onHorizons(horizons: Horizons): void;
}

/**
 * The bearings of all rungs, long to short: the analyst's own where one is set, otherwise the machine's, lighter; and
 * how far they agree.
 */
export function BearingRow({ market, rungs, marks, horizons, onHorizons }: Props) {
  const own = bearingsOf(marks);
  const empty = withoutBars(rungs, own);
  const all = rungs
    .filter(({ rung }) => !empty.includes(rung))
    .map(({ rung, bearing }) => {
      const said = own.get(rung);
      const direction: Direction = said?.props.direction ?? bearing.direction;
      return {
        rung,
        direction,
        own: said !== undefined,
        why: said ? said.props.reasons || "set by hand" : reasonsText(bearing, market),
      };
    });
  // Its room is kept while it is on its way, so that the chart does not jump.
  if (rungs.length === 0) return <Box sx={{ minHeight: 24, width: "100%" }} />;
  return (
    <Box
      role="group"
      aria-label="Bearings"
      sx={{
        display: "flex",
        alignItems: "center",
        columnGap: 1.25,
        minHeight: 24,
        width: "100%",
        overflow: { xs: "auto", md: "hidden" },
        whiteSpace: "nowrap",
      }}
    >
      {all.map((one) => (
        <Box
          key={one.rung}
          component="span"
          title={`${rungText(one.rung)} ${one.direction}: ${one.why}`}
          sx={{
            display: "inline-flex",
            alignItems: "center",
            gap: 0.25,
            color: one.own ? "text.primary" : "text.secondary",
            fontSize: "0.78rem",
            fontWeight: one.own ? 600 : 400,
          }}
        >
          <Needle direction={one.direction} />
          {rungText(one.rung)}
        </Box>
      ))}
      <Typography variant="body2" sx={{ ml: 0.5 }}>
        {agreementText(all, empty)}
      </Typography>
      <HorizonLine horizons={horizons} bearings={all} onHorizons={onHorizons} />
    </Box>
  );
}

/** Rungs that go nowhere because there is nothing on them, and nobody said where they go. */
export function withoutBars(
  rungs: readonly Pick<RungBearing, "rung" | "until">[],
  own: ReadonlyMap<string, unknown>,
): string[] {
  return rungs.flatMap(({ rung, until }) => (until === undefined && !own.has(rung) ? [rung] : []));
}

/** "6 of 9 up; 15 min, 5 min dissent; no bars on 1 min". */
export function agreementText(
  all: readonly { rung: string; direction: Direction }[],
  empty: readonly string[] = [],
): string {
  const none = empty.length > 0 ? `; no bars on ${empty.map(rungText).join(", ")}` : "";
  return wayText(all) + none;
}

function wayText(all: readonly { rung: string; direction: Direction }[]): string {
  const { way, count, of, dissent } = agreementOf(all);
  if (!way) return count === 0 ? "no rung goes anywhere" : `${count} up, ${count} down`;
  const against =
    dissent.length > 0 ? `; ${dissent.map(rungText).join(", ")} ${dissent.length === 1 ? "dissents" : "dissent"}` : "";
  return `${count} of ${of} ${way}${against}`;
}

/**
 * What a reason rests on, where that is more than its price says: "swing low of 8 Sep 2026", "range 401.20 to 404.00
 * since 3 Oct 2026".
 */
export function restsText({ what, rests }: MachineBearing["reasons"][number], market: MarketFacts): string {
  if (what === "closes" || what === "long average") return "";
  return rests
    .map(({ name, bottom, top, time }) =>
      bottom === top
        ? `${name} of ${dateText(time)}`
        : `${name} ${priceText(bottom, market)} to ` +
          `${priceText(top, market)}${name === "cloud" ? "" : ` since ${dateText(time)}`}`,
    )
    .join(", ");
}

export function reasonsText({ reasons }: MachineBearing, market: MarketFacts): string {
  return (
    reasons
      .map(({ says, price }) => `${says}${price === undefined ? "" : ` ${priceText(price, market)}`}`)
      .join("; ") || "too few bars to say"
  );
}

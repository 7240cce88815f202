import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { StudiesRead } from "./StudiesRead.tsx";
import { levelText } from "#core/marks/levelText";
import type { Changes } from "#core/edition/changes";
import { bandText, percentText, pipsText, priceText, rungText } from "#core/marks/wording";
import type { PictureLayout } from "#core/edition/layouts";
import { LevelTable } from "../../parts/LevelTable.tsx";
import { useTimes } from "../../parts/useTimes.ts";
import { WordsView } from "../../parts/WordsView.tsx";
import { figuresIn } from "./callFigures.ts";
import type { Place } from "./pointed.ts";
import { ReaderScenario } from "./ReaderScenario.tsx";
import { useNow } from "./useNow.ts";
import type { ReadBlock, ReadOutlook, ReadSection } from "./readOutlook.server.ts";
import { SectionPicture } from "./SectionPicture.tsx";

interface Props {
  outlook: Pick<ReadOutlook, "number" | "followUps" | "notes" | "standings">;
  block: Extract<ReadBlock, { kind: "market" }>;
  /** For which width its picture is laid out; by the width of the page where that is not said. */
  layout: PictureLayout | undefined;
  /** Address of a chart's picture, without its ending. */
  pictureAt: (index: number) => string;
  drawings: Readonly<Record<number, string>> | undefined;
}

/** A market's part of an outlook: its picture and its numbers, and beside them what is called. */
export function OutlookSection({
  outlook: { followUps, notes, standings },
  block,
  layout,
  pictureAt,
  drawings,
}: Props) {
  const { index, section, pictures, words, changed } = block;
  const { market, rung, levels, scenarios, withheld, horizons = [], studies, close } = section;
  const now = useNow();
  const { moment } = useTimes();
  const price = now?.markets.find(({ id }) => id === market.id)?.price;
  // A call that has ended since the page was made stands nowhere any more.
  const underWay = now?.calls ?? standings.filter(({ phase }) => phase !== "done");
  const standingOf = (id: string) => underWay.find(({ scenarioId }) => scenarioId === id)?.says;
  return (
    <Box
      component="section"
      aria-label={market.name}
      sx={{
        display: "grid",
        // Paper has one column, however wide the window it is looked at in.
        ...(layout === "paper"
          ? { gridTemplateColumns: "minmax(0, 1fr)" }
          : {
              gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 330px" },
              gridTemplateRows: { md: "auto 1fr" },
            }),
        columnGap: 4,
        borderTop: "1.5px solid",
        borderColor: "text.primary",
        mt: 3,
        pt: 2,
      }}
    >
      <Box>
        <Typography variant="h2">
          {market.name}, {rungText(rung).toLowerCase()}
        </Typography>
        {now && price !== undefined && close !== undefined && (
          <Typography sx={{ mt: 0.5, fontVariantNumeric: "tabular-nums" }}>
            Now <strong>{priceText(price, market)}</strong>, {movedText(price - close, market, close)}; market time{" "}
            {moment(now.at)}.
          </Typography>
        )}
        {horizons.length > 0 && (
          <Typography sx={{ mt: 0.5 }}>
            {horizons.map(({ horizon, direction, rungs }, n) => (
              <span key={horizon}>
                {n > 0 && "; "}
                {n === 0 ? "The view: " : ""}
                {horizon} <strong>{direction}</strong> (
                {rungs.map((one) => rungText(one.rung).toLowerCase()).join(", ")})
              </span>
            ))}
            .
          </Typography>
        )}
        {changed && <Changed {...changed} />}
        {words && words.content.length > 0 && (
          <Box sx={{ mt: 1 }}>
            <WordsView words={words} small />
          </Box>
        )}
        <SectionPicture
          drawing={drawings?.[index]}
          address={pictureAt(index)}
          {...{ pictures, layout, market, rung }}
          reading={{ decimals: market.decimals, places: placesOf(section, standingOf) }}
        />
      </Box>
      <Box sx={layout === "paper" ? { mt: 2 } : { gridRow: { md: "1 / span 2" }, gridColumn: { md: 2 } }}>
        {scenarios.length + withheld === 0 && (
          <Typography variant="body2">No scenario was published for this market.</Typography>
        )}
        {withheld > 0 && (
          <Typography variant="body2">
            {withheld === 1 ? "A scenario is" : `${withheld} scenarios are`} called here; your plan does not show{" "}
            {withheld === 1 ? "it" : "them"}.
          </Typography>
        )}
        {scenarios.map((scenario) => (
          <ReaderScenario
            key={scenario.id}
            scenario={scenario}
            close={close ?? NaN}
            market={market}
            standing={standingOf(scenario.id)}
            followUps={followUps.filter(({ scenarioId }) => scenarioId === scenario.id).map(({ event }) => event)}
            notes={notes.filter(({ scenarioId }) => scenarioId === scenario.id).map(({ note }) => note)}
          />
        ))}
      </Box>
      {studies.length > 0 && <StudiesRead studies={studies} />}
      {levels && (
        <Box>
          <Typography variant="h2" sx={{ mt: 2.5 }}>
            Levels that matter
          </Typography>
          <LevelTable lines={levels} decimals={market.decimals} />
          {close !== undefined && (
            <Typography variant="caption" color="text.secondary">
              The nearest prices on each side, those the calls use and those that end counts; distances from{" "}
              {close.toFixed(market.decimals)}, the last price when this was frozen.
            </Typography>
          )}
        </Box>
      )}
    </Box>
  );
}

/** Where price is against the last one when an outlook was frozen, in the market's own unit and as a share. */
function movedText(moved: number, market: MarketFacts, close: number): string {
  if (moved === 0) return "as when this was frozen";
  const size = `${pipsText(moved, market)} (${percentText(Math.abs(moved / close), 2)})`;
  return `${size} ${moved > 0 ? "above" : "below"} where it was when this was frozen`;
}

/** Prices that were published of a market, each with what it is and where its call stands. */
function placesOf(
  { market, levels = [], scenarios, close = NaN }: ReadSection,
  standingOf: (id: string) => string | undefined,
): Place[] {
  const ofCalls = scenarios.flatMap((scenario) =>
    figuresIn(scenario, market, close).rows.map(({ name, price, text, r }): Place => {
      const says = `${name}, ${text}${r && `, ${r}`}: ${scenario.title}.`;
      const standing = standingOf(scenario.id);
      return { bottom: price, top: price, says: standing ? `${says} Now: ${standing}.` : says };
    }),
  );
  const ofLevels = levels.map((line) => ({ ...line, says: `${levelText(line)} (${bandText(line, market)}).` }));
  return [...ofCalls, ...ofLevels];
}

/** What is new since the market was last written of. */
function Changed({ since, levels = [], calls = [] }: Partial<Changes>) {
  const said = [...calls, ...levels];
  return (
    <Typography variant="body2" component="div" sx={{ mt: 0.5 }}>
      Since <MuiLink href={`/outlooks/${since}`}>edition {since}</MuiLink>:{" "}
      {said.length === 0 ? "nothing of it has changed." : said.join(" ")}
    </Typography>
  );
}

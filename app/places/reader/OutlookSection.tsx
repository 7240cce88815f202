import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { Changes } from "#core/edition/changes";
import type { Words } from "#core/edition/words";
import { rungText } from "#core/marks/wording";
import type { StoredFollowUp, StoredNote } from "../../../server/publishing/editions.ts";
import type { FrozenSection } from "../../../server/publishing/section.ts";
import type { Standing } from "../../../server/watch/standing.ts";
import { LevelTable } from "../../parts/LevelTable.tsx";
import { WordsView } from "../../parts/WordsView.tsx";
import { ReaderScenario } from "./ReaderScenario.tsx";

export interface ReadSection extends Pick<FrozenSection, "market" | "rung" | "levels" | "scenarios" | "horizons"> {
  close: number | undefined;
}

interface Props {
  number: number;
  block: {
    /** Which of the edition's pictures is its. */
    index: number;
    section: ReadSection;
    words: Words | undefined;
    changed: Changes | undefined;
  };
  followUps: readonly StoredFollowUp[];
  notes: readonly StoredNote[];
  standings: readonly Standing[];
}

/** A market's part of an outlook: its picture and its numbers, and beside them what is called. */
export function OutlookSection({ number, block, followUps, notes, standings }: Props) {
  const { index, section, words, changed } = block;
  const { market, rung, levels, scenarios, horizons = [], close } = section;
  return (
    <Box
      component="section"
      aria-label={market.name}
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 330px" },
        gridTemplateRows: { md: "auto 1fr" },
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
        <Box
          component="img"
          src={`/outlooks/${number}/picture/${index}.png`}
          alt={
            `Chart of ${market.name} on the ${rungText(rung).toLowerCase()}. Its prices stand in the ` +
            `table of levels.`
          }
          width={860}
          height={460}
          sx={{ width: "100%", height: "auto", border: 1, borderColor: "divider", display: "block", mt: 1 }}
        />
        <Typography variant="caption" color="text.secondary">
          Price in ink, what we say of it in colour.{" "}
          <MuiLink href={`/outlooks/${number}/picture/${index}.svg`}>As a drawing (SVG)</MuiLink>
        </Typography>
      </Box>
      <Box sx={{ gridRow: { md: "1 / span 2" }, gridColumn: { md: 2 } }}>
        {scenarios.length === 0 && <Typography variant="body2">No scenario was published for this market.</Typography>}
        {scenarios.map((scenario) => (
          <ReaderScenario
            key={scenario.id}
            scenario={scenario}
            close={close ?? NaN}
            market={market}
            standing={standings.find(({ scenarioId, phase }) => scenarioId === scenario.id && phase !== "done")?.says}
            followUps={followUps.filter(({ scenarioId }) => scenarioId === scenario.id).map(({ event }) => event)}
            notes={notes.filter(({ scenarioId }) => scenarioId === scenario.id).map(({ note }) => note)}
          />
        ))}
      </Box>
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
    </Box>
  );
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

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { rungText } from "#core/marks/wording";
import { findEdition, followUpsOf, notesOf, verifyEdition } from "../../../server/publishing/editions.ts";
import { standingsOf } from "../../../server/publishing/standing.ts";
import { answer } from "../../access.server.ts";
import { LevelTable } from "../../parts/LevelTable.tsx";
import { momentText } from "../../parts/times.ts";
import { SERIF } from "../../theme/theme.ts";
import { ReaderScenario } from "./ReaderScenario.tsx";
import type { Route } from "./+types/outlook.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { title?: string } | undefined)?.title ?? "Outlook"} - Even Compass` },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { edition, content } = await findEdition(params.number);
    const { number, title, body, author, publishedBy, publishedAt, marketTime, sections } = content;
    return {
      number,
      title,
      body,
      author: publishedBy === undefined ? author : `${author}, published by ${publishedBy}`,
      publishedAt: Date.parse(publishedAt),
      marketTime: Date.parse(marketTime),
      sha256: edition.sha256,
      check: await verifyEdition(number),
      followUps: await followUpsOf(number),
      notes: await notesOf(number),
      standings: await standingsOf(number),
      sections: sections.map(({ market, rung, levels, scenarios, bars, horizons = [] }) => ({
        market,
        rung,
        levels,
        scenarios,
        horizons,
        close: bars.at(-1)?.close,
      })),
    };
  });
}

/** One outlook as subscribers read it: words and picture, the scenarios in figures, what became of them. */
export default function Outlook({ loaderData }: Route.ComponentProps) {
  const { number, title, body, author, publishedAt, marketTime, sha256, check, followUps, notes, standings, sections } =
    loaderData;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <Typography variant="body2" color="text.secondary">
        {`Edition ${number}, ${momentText(publishedAt, "utc")} UTC, by ${author}. `}
        {`Market time ${momentText(marketTime, "utc")} `}
        UTC.
      </Typography>
      <Typography variant="h1" sx={{ fontSize: { xs: "1.7rem", md: "2.2rem" }, maxWidth: 820, mt: 0.5, mb: 1.5 }}>
        {title}
      </Typography>
      {body
        .split(/\n\s*\n/)
        .filter((text) => text.trim() !== "")
        .map((text, i) => (
          <Typography
            key={i}
            sx={{
              fontFamily: SERIF,
              fontSize: "1.08rem",
              lineHeight: 1.5,
              maxWidth: 760,
              mb: 1.25,
              whiteSpace: "pre-line",
              overflowWrap: "anywhere",
            }}
          >
            {text}
          </Typography>
        ))}
      {sections.map(({ market, rung, levels, scenarios, horizons, close }, i) => (
        <Box
          component="section"
          key={i}
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
            <Box
              component="img"
              src={`/outlooks/${number}/picture/${i}.png`}
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
              <MuiLink href={`/outlooks/${number}/picture/${i}.svg`}>As a drawing (SVG)</MuiLink>
            </Typography>
          </Box>
          <Box sx={{ gridRow: { md: "1 / span 2" }, gridColumn: { md: 2 } }}>
            {scenarios.length === 0 && (
              <Typography variant="body2">No scenario was published for this market.</Typography>
            )}
            {scenarios.map((scenario) => (
              <ReaderScenario
                key={scenario.id}
                scenario={scenario}
                close={close ?? NaN}
                market={market}
                standing={
                  standings.find(({ scenarioId, phase }) => scenarioId === scenario.id && phase !== "done")?.says
                }
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
                The nearest prices; distances from {close.toFixed(market.decimals)}, the last price when this was
                frozen.
              </Typography>
            )}
          </Box>
        </Box>
      ))}
      <Box component="footer" sx={{ borderTop: "1.5px solid", borderColor: "text.primary", mt: 4, pt: 1 }}>
        <Typography variant="caption" component="p" color="text.secondary" sx={{ overflowWrap: "anywhere" }}>
          Frozen {new Date(publishedAt).toISOString()}. SHA-256 {sha256}.{" "}
          {check.holds ? check.why : `\u00d7 ${check.why}`}{" "}
          <MuiLink href={`/outlooks/${number}/edition.json`}>The frozen text, to check it yourself</MuiLink>. Education,
          not advice; losses are possible.
        </Typography>
      </Box>
    </Box>
  );
}

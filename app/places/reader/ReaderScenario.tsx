import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import type { FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import { followUpSentence, noteSentence, scenarioSentence, rText } from "#core/scenarios/say";
import { scenarioFigures, type Scenario } from "#core/scenarios/scenario";
import { momentText } from "../../parts/times.ts";

interface Props {
  scenario: Scenario;
  market: MarketFacts;
  followUps: readonly FollowUp[];
  notes: readonly OutcomeNote[];
}

/** A scenario in figures, and what the machine has recorded of it since. */
export function ReaderScenario({ scenario, market, followUps, notes }: Props) {
  const { targets } = scenarioFigures(scenario, market.pip);
  const side = scenario.direction === "long" ? "below" : "above";
  const rows: [string, string, string][] = [
    [scenario.entry.order === "market" ? "Entry, about" : "Entry", priceText(scenario.entry.price, market), ""],
    ["Stop", priceText(scenario.stop, market), rText(-1)],
    ...targets.map(({ price, share, r }, i): [string, string, string] => [
      `Target ${i + 1}, ${percentText(share, 0)}`,
      priceText(price, market),
      rText(r),
    ]),
    ["\u00d7 Wrong", `${side} ${priceText(scenario.invalidation, market)}`, ""],
  ];
  return (
    <Box
      component="section"
      aria-label={scenario.title}
      sx={{ borderTop: "1.5px solid", borderColor: "text.primary", pt: 1, mt: 2, "&:first-of-type": { mt: 0 } }}
    >
      <Typography variant="h2" sx={({ vars }) => ({ color: vars?.palette.compass.carmine })}>
        {scenario.title}
      </Typography>
      {scenario.premise && <Typography variant="body2">{scenario.premise}</Typography>}
      <Typography variant="body2" sx={{ mb: 1 }}>
        {scenarioSentence(scenario, market)}
      </Typography>
      <Table aria-label={`Figures of ${scenario.title}`}>
        <TableBody>
          {rows.map(([name, price, r]) => (
            <TableRow key={name}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              <TableCell align="right">{price}</TableCell>
              <TableCell align="right">{r}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="caption" color="text.secondary">
        Lapses {momentText(scenario.expiry, "utc")} UTC.
      </Typography>
      <Box
        component="ol"
        aria-label={`What became of ${scenario.title}`}
        sx={{ listStyle: "none", p: 0, mt: 1, mb: 0 }}
      >
        {followUps.length === 0 && (
          <Typography component="li" variant="body2" color="text.secondary">
            Waiting for its trigger.
          </Typography>
        )}
        {followUps.map((event, i) => (
          <Typography component="li" variant="body2" key={i}>
            <strong>{momentText(event.knownAt, "utc")} UTC.</strong> {followUpSentence(event, market)}
          </Typography>
        ))}
      </Box>
      {notes.map((note, i) => (
        <Typography key={i} variant="body2" sx={{ mt: 1, fontStyle: "italic" }}>
          Note, {momentText(note.time, "utc")} UTC. {noteSentence(note, market)}
        </Typography>
      ))}
    </Box>
  );
}

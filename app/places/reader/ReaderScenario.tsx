import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import type { FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import { followUpSentence, noteSentence } from "#core/scenarios/say";
import type { Scenario } from "#core/scenarios/scenario";
import type { Frozen } from "#core/written/written";
import { utcText } from "../../parts/times.ts";
import { figuresIn } from "./callFigures.ts";

interface Props {
  scenario: Frozen | Scenario;
  market: MarketFacts;
  /** The last close it was published with. */
  close: number;
  /** Where it stands just now, while it is under way. */
  standing: string | undefined;
  followUps: readonly FollowUp[];
  notes: readonly OutcomeNote[];
}

/** A scenario in words and figures, where it stands, and what the machine has recorded of it since. */
export function ReaderScenario({ scenario, market, close, standing, followUps, notes }: Props) {
  const { says, rows } = figuresIn(scenario, market, close);
  return (
    <Box
      component="section"
      aria-label={scenario.title}
      sx={{ borderTop: "1.5px solid", borderColor: "text.primary", pt: 1, mt: 2, "&:first-of-type": { mt: 0 } }}
    >
      <Typography variant="h2" sx={({ vars }) => ({ color: vars?.palette.compass.carmine })}>
        {scenario.title}
      </Typography>
      {"rank" in scenario && (
        <Typography variant="caption" component="p" color="text.secondary">
          {scenario.role === "preferred" ? "Preferred" : "Alternate"}, {scenario.weight} %, {scenario.rank}
          {scenario.calledIn !== undefined && (
            <>
              {"; called in "}
              <MuiLink href={`/outlooks/${scenario.calledIn}`}>edition {scenario.calledIn}</MuiLink>
              {", followed since"}
            </>
          )}
        </Typography>
      )}
      {scenario.premise && <Typography variant="body2">{scenario.premise}</Typography>}
      <Typography variant="body2" sx={{ mb: 1 }}>
        {says}
      </Typography>
      <Table aria-label={`Figures of ${scenario.title}`}>
        <TableBody>
          {rows.map(({ name, text, r }) => (
            <TableRow key={name}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              <TableCell align="right">{text}</TableCell>
              <TableCell align="right">{r}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {standing && (
        <Typography variant="body2" role="status" sx={{ mt: 1, fontWeight: 600 }}>
          Now: {standing}.
        </Typography>
      )}
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
            <strong>{utcText(event.knownAt)}.</strong> {followUpSentence(event, market)}
          </Typography>
        ))}
      </Box>
      {notes.map((note, i) => (
        <Typography key={i} variant="body2" sx={{ mt: 1, fontStyle: "italic" }}>
          Note, {utcText(note.time)}. {noteSentence(note, market)}
        </Typography>
      ))}
    </Box>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText } from "#core/marks/wording";
import type { FollowUp } from "#core/scenarios/events";
import type { OutcomeNote } from "#core/scenarios/note";
import { followUpSentence, noteSentence, rText } from "#core/scenarios/say";
import type { Scenario } from "#core/scenarios/scenario";
import { sayTerms } from "#core/scenarios/sayTerms";
import { figuresOf, type OrderFigures } from "#core/written/figures";
import { guess } from "#core/written/guess";
import { termsOfFrozen } from "#core/written/read";
import type { Frozen } from "#core/written/written";
import { utcText } from "../../parts/times.ts";

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

/** What a scenario says and its figures: those a plan does not show are left out, and that is said. */
function figuresIn(scenario: Frozen | Scenario, market: MarketFacts, close: number): { says: string; rows: Row[] } {
  if (!hasOrders(scenario)) {
    const { direction, wrong } = ((scenario as Partial<Frozen>).terms ?? {}) as { direction?: string; wrong?: unknown };
    const rows = typeof wrong === "number" ? [wrongRow(direction, wrong, market)] : [];
    return { says: "Its entries, stops and targets are for other plans than yours.", rows };
  }
  const terms = termsOfFrozen(scenario);
  const { orders } = figuresOf(terms, market, { close });
  const wrong = guess(terms.wrong, terms.if);
  const rows = orders.flatMap((order, i) =>
    order ? rowsOf(order, market, orders.length > 1 ? `${i + 1}. ` : "") : [],
  );
  return {
    says: sayTerms(terms, market, utcText),
    rows: [...rows, ...(wrong === undefined ? [] : [wrongRow(terms.direction, wrong, market)])],
  };
}

/** Whether its entries are there; they are cut out of what a plan without them is given. */
function hasOrders(scenario: Frozen | Scenario): boolean {
  const holder: object = "terms" in scenario ? scenario.terms : scenario;
  return "entry" in holder || "legs" in holder;
}

type Row = [name: string, price: string, r: string];

function rowsOf({ entry, about, stop, targets }: OrderFigures, market: MarketFacts, before: string): Row[] {
  const named = (name: string, isAbout: boolean) => `${before}${name}${isAbout ? ", about" : ""}`;
  return [
    [named("Entry", about), priceText(entry, market), ""],
    [named("Stop", stop.about), priceText(stop.price, market), rText(stop.r)],
    ...targets.map(({ price, share, r, about: isAbout }, i): Row => [
      named(`Target ${i + 1}, ${percentText(share, 0)}`, isAbout),
      priceText(price, market),
      rText(r),
    ]),
  ];
}

function wrongRow(direction: string | undefined, wrong: number, market: MarketFacts): Row {
  return ["\u00d7 Wrong", `${direction === "long" ? "below" : "above"} ${priceText(wrong, market)}`, ""];
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { MarketFacts } from "#core/marks/kind";
import { countText, percentText, priceText } from "#core/marks/wording";
import type { HistoryGroup } from "#core/scenarios/groups";
import { rText } from "#core/scenarios/say";
import type { HistorySummary } from "#core/scenarios/summary";
import type { Interval } from "#core/statistics/intervals";
import type { FoundInstance, RuleFound } from "../../../../server/tasks/ruleHistory.ts";
import { momentText } from "../../../parts/times.ts";

interface Props {
  found: RuleFound;
  seed: number;
  market: MarketFacts;
  /** Walks forward from an instant. */
  onWalk(instant: number): void;
}

const LISTED = 40;

/** What a rule came to over the past: figures with their intervals, against random entries, and every instance. */
export function HistoryFound({ found, seed, market, onWalk }: Props) {
  const { summary, chance, groups, instances, count, bars } = found;
  const [all, setAll] = useState(false);
  const latest = [...instances].reverse();
  const listed = all ? latest : latest.slice(0, LISTED);
  if (count === 0)
    return (
      <Typography variant="body2" sx={{ mt: 1 }}>
        It was never triggered over {barsText(bars)}.
      </Typography>
    );
  return (
    <Box sx={{ mt: 1 }}>
      <Table size="small" aria-label="The rule against chance" sx={{ "& td, & th": { px: 0.5 } }}>
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell align="right">The rule</TableCell>
            <TableCell align="right">Random entries</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {figureRows(summary, chance).map(([name, own, random]) => (
            <TableRow key={name}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              <TableCell align="right">{own}</TableCell>
              <TableCell align="right">{random}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Results results={groups.results} />
      {(["years", "hours", "resolutions"] as const).map((by) => (
        <Groups key={by} name={NAMES[by]} groups={groups[by]} />
      ))}
      <Box component="ul" sx={{ pl: 2, my: 1, fontSize: "0.82rem", color: "text.secondary" }}>
        {warningsOf(found, seed).map((warning) => (
          <li key={warning}>{warning}</li>
        ))}
      </Box>
      <Typography variant="h3">{countText(count, "instance")}</Typography>
      <Box component="ol" aria-label="Instances, latest first" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {listed.map((one) => (
          <Instance key={one.since} instance={one} market={market} onWalk={onWalk} />
        ))}
      </Box>
      {latest.length > listed.length && (
        <Button variant="text" onClick={() => setAll(true)}>
          List all {latest.length}
        </Button>
      )}
    </Box>
  );
}

const NAMES = {
  years: "By year",
  hours: "By hour of entry, on the market's clock",
  resolutions: "By the bars it was entered on",
};

const interval = ([low, high]: Interval, text: (value: number) => string) =>
  `${text(low).replace(" %", "")} to ${text(high)}`;

function figureRows(own: HistorySummary, random: HistorySummary): [string, string, string][] {
  const both = (name: string, text: (of: HistorySummary) => string): [string, string, string] => [
    name,
    text(own),
    text(random),
  ];
  const percent = (value: number) => percentText(value, 0);
  const plain = (value: number | undefined) => (value === undefined ? "" : rText(value));
  return [
    both("Trades ended", ({ n }) => String(n)),
    both("Made more than nothing", ({ hitRate }) => (hitRate === undefined ? "" : percent(hitRate))),
    both("95 % interval", ({ n, interval: bounds }) => (n === 0 ? "" : interval(bounds, percent))),
    both("Mean result", ({ expectancy }) => plain(expectancy)),
    both("95 % interval of it", ({ expectancyInterval: bounds }) =>
      bounds ? interval(bounds, rText).replace(" R to", " to") : "",
    ),
    both("Best on the way", ({ best }) => plain(best)),
    both("Worst on the way", ({ worst }) => plain(worst)),
    both("In the trade", ({ inTrade }) => (inTrade === undefined ? "" : spanText(inTrade))),
  ];
}

function spanText(length: number): string {
  const hours = length / 3_600_000;
  return hours < 48 ? `${hours.toFixed(1)} h` : `${(hours / 24).toFixed(1)} days`;
}

/** How often which result came: strips as long as there were many. */
function Results({ results }: { results: RuleFound["groups"]["results"] }) {
  const most = Math.max(1, ...results.map(({ n }) => n));
  return (
    <Box
      role="img"
      aria-label={`Results in R: ${results.map((one) => `${boundText(one)} ${one.n}`).join(", ")}`}
      sx={{ mt: 1 }}
    >
      {results
        .filter(({ n, from, to }) => n > 0 || (from !== undefined && to !== undefined && from >= -1 && to <= 3))
        .map((one) => (
          <Box
            key={boundText(one)}
            sx={{
              display: "grid",
              gridTemplateColumns: "84px minmax(0, 1fr) 32px",
              gap: 1,
              fontSize: "0.82rem",
              alignItems: "center",
            }}
          >
            <span>{boundText(one)}</span>
            <Box
              sx={{
                height: 8,
                width: `${(100 * one.n) / most}%`,
                bgcolor: (one.to ?? 1) <= 0 ? "text.disabled" : "text.primary",
              }}
            />
            <Box component="span" sx={{ textAlign: "right" }}>
              {one.n}
            </Box>
          </Box>
        ))}
    </Box>
  );
}

const boundText = ({ from, to }: { from?: number; to?: number }) =>
  (from === undefined ? `to ${to} R` : to === undefined ? `above ${from} R` : `${from} to ${to} R`).replaceAll(
    "-",
    "\u2212",
  );

function Groups({ name, groups }: { name: string; groups: readonly HistoryGroup[] }) {
  if (groups.length < 2) return null;
  return (
    <Box component="details" sx={{ mt: 0.5 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer", minHeight: 24 }}>
        {name}
      </Typography>
      <Table size="small" sx={{ "& td, & th": { px: 0.5 } }}>
        <TableHead>
          <TableRow>
            <TableCell />
            <TableCell align="right">n</TableCell>
            <TableCell align="right">hits, 95 %</TableCell>
            <TableCell align="right">mean</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {groups.map(({ name: of, n, hits, interval: bounds, expectancy }) => (
            <TableRow key={of}>
              <TableCell component="th" scope="row">
                {of}
              </TableCell>
              <TableCell align="right">{n}</TableCell>
              <TableCell align="right">
                {percentText(hits / n, 0)} ({interval(bounds, (value) => percentText(value, 0))})
              </TableCell>
              <TableCell align="right">{rText(expectancy)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function warningsOf({ summary, chance, bars }: RuleFound, seed: number): string[] {
  const { n, ambiguous, open, notEntered, tooNear } = summary;
  const { n: drawn, drawnError } = chance;
  const moved = drawnError === undefined ? "" : `: another seed moves their mean by about ${rText(drawnError)}`;
  return [
    ...(n < 30 ? [`${countText(n, "trade")} say little: see how wide the interval is.`] : []),
    "Instances do not overlap: it is looked for anew once the one before has ended. The intervals take them for " +
      "independent of each other, which trades that follow one another in one market need not be.",
    ...(notEntered > 0 ? [`${countText(notEntered, "was", "were")} triggered and never entered.`] : []),
    ...(open > 0 ? [`${countText(open, "is", "are")} still open and not counted.`] : []),
    ...(ambiguous > 0
      ? [`On ${countText(ambiguous, "trade")} a bar may have gone either way; the worst of it is counted.`]
      : []),
    `Told by ${barsText(bars)}, each stretch by the finest there is.`,
    ...(tooNear > 0
      ? [`${countText(tooNear, "trade")} had the stop nearer than four ticks and ${isOrAre(tooNear)} left out.`]
      : []),
    `Random entries: ${drawn.toLocaleString("en")} at opens drawn with seed ${seed}, with the distances of stop and ` +
      "targets that the rule had, their stops following structure where the rule's do. Their interval says how " +
      `exactly they were drawn${moved}.`,
    "It is no promise: the rule was written by somebody who may have seen this past.",
  ];
}

const isOrAre = (n: number) => (n === 1 ? "is" : "are");

const barsText = (bars: RuleFound["bars"]) =>
  bars.map(({ timeframe, length }) => `${length.toLocaleString("en")} bars of ${timeframe}`).join(" and ");

function Instance({
  instance,
  market,
  onWalk,
}: {
  instance: FoundInstance;
  market: MarketFacts;
  onWalk(instant: number): void;
}) {
  const { events, r, ambiguous, state } = instance;
  const entry = events.find(({ event }) => event === "entered");
  const last = events.at(-1);
  const from = entry ?? events[0];
  const end = entry ? (state === "done" ? rText(r) : `open, ${rText(r)}`) : `not entered: ${last?.event ?? "waiting"}`;
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        justifyContent: "space-between",
        gap: 1,
        borderBottom: 1,
        borderColor: "divider",
        fontSize: "0.85rem",
        py: 0.25,
      }}
    >
      <Button
        variant="text"
        sx={{ px: 0, textAlign: "left", fontWeight: 400 }}
        onClick={() => onWalk(from.at)}
        title="Walk forward from there"
      >
        {momentText(from.at, "utc")} {entry ? `at ${priceText(entry.price, market)}` : ""}
      </Button>
      <span>
        {end}
        {ambiguous ? " ?" : ""}
      </span>
    </Box>
  );
}

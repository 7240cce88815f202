import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { sayRecord } from "#core/edition/recordFigures";
import { percentText, rungText } from "#core/marks/wording";
import type { AreaLine } from "../../../server/publishing/content.ts";
import type { FilledBlock } from "../../../server/publishing/filled.ts";
import { momentText } from "../../parts/times.ts";

export type Filled = FilledBlock;

const TITLES: Record<Filled["kind"], string> = {
  calendar: "To respect",
  recap: "What became of it",
  ranking: "The calls, best first",
  board: "Where it all points",
  counts: "Counts, and what ends them",
  areas: "Areas about price",
  record: "The record so far",
};

/** A block that the machine filled, as it is read. */
export function FilledView({ block, untitled = false }: { block: Filled; untitled?: boolean }) {
  return (
    <Box component="section" aria-label={TITLES[block.kind]} sx={{ mt: untitled ? 0 : 2.5, maxWidth: 860 }}>
      {!untitled && (
        <Typography variant="h2">
          {block.kind === "calendar" && block.days === 7 ? "The week ahead" : TITLES[block.kind]}
        </Typography>
      )}
      {block.kind === "record" ? (
        sayRecord(block.figures).map((text) => (
          <Typography key={text} variant="body2">
            {text}
          </Typography>
        ))
      ) : block.lines.length === 0 ? (
        <Typography variant="body2">{NOTHING[block.kind]}</Typography>
      ) : (
        lines(block)
      )}
    </Box>
  );
}

type Listed = Exclude<Filled, { kind: "record" }>;

const NOTHING: Record<Listed["kind"], string> = {
  calendar: "Nothing is expected.",
  recap: "Nothing was open, and nothing has happened since.",
  ranking: "No call is made in this edition: what is watched stands with its market.",
  board: "No market is read yet.",
  counts: "No count stands on the markets of this edition.",
  areas: "No area stands about the price of the markets of this edition.",
};

function lines(block: Listed) {
  switch (block.kind) {
    case "calendar":
      return block.lines.map(({ at, allDay, title, impact }, i) => (
        <Typography key={i} variant="body2">
          <strong>
            {allDay ? momentText(at, "utc").replace(/,? \d\d:\d\d$/, "") : `${momentText(at, "utc")} UTC`}
          </strong>{" "}
          {title}
          {impact >= 3 ? ", of weight" : ""}
        </Typography>
      ));
    case "recap":
      return block.lines.map(({ edition, title, market, since, stands }, i) => (
        <Typography key={i} variant="body2" sx={{ mb: 0.5 }}>
          <strong>{market}</strong>, {title} (<MuiLink href={`/outlooks/${edition}`}>edition {edition}</MuiLink>).{" "}
          {(since as string[] | undefined)?.join(" ") ?? "What became of it is for other plans."}{" "}
          {since && (stands === undefined ? "It is over." : `It stands: ${stands}.`)}
        </Typography>
      ));
    case "ranking":
      return (
        <Table aria-label={TITLES.ranking}>
          <TableHead>
            <TableRow>
              <TableCell>Call</TableCell>
              <TableCell>Rank</TableCell>
              <TableCell align="right">Reward to risk</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {block.lines.map(({ market, title, direction, rank, role, weight, reward }, i) => (
              <TableRow key={i}>
                <TableCell>
                  <strong>{market}</strong>, {direction}: {title}
                </TableCell>
                <TableCell>
                  {rank}, {role}
                </TableCell>
                <TableCell align="right">{weight} %</TableCell>
                <TableCell align="right">
                  {reward === undefined ? "with its steps" : `${reward.toFixed(2)} : 1`}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      );
    case "board":
      return (
        <Table aria-label={TITLES.board}>
          <TableBody>
            {block.lines.map(({ market, views }) => (
              <TableRow key={market}>
                <TableCell>{market}</TableCell>
                {views.map(({ horizon, direction }) => (
                  <TableCell key={horizon}>
                    {horizon} <strong>{direction}</strong>
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      );
    case "counts":
      return block.lines.map(({ market, rung, role, weight, says, ends }, i) => (
        <Typography key={i} variant="body2" sx={{ mb: 0.5, ...(role === "alternate" ? { pl: 2 } : {}) }}>
          <strong>
            {market}, {rungText(rung).toLowerCase()}
          </strong>
          , {role}
          {weight > 0 ? `, ${weight} %` : ""}. {says}
          {ends !== undefined && ` \u00d7 Ends ${ends}.`}
        </Typography>
      ));
    case "areas":
      return <AreaTable lines={block.lines} />;
  }
}

/** Lines that count among their reasons are null for plans that do not show counts. */
function AreaTable({ lines }: { lines: readonly (AreaLine | null)[] }) {
  return (
    <Table aria-label={TITLES.areas}>
      <TableHead>
        <TableRow>
          <TableCell>Area</TableCell>
          <TableCell>Where it comes from</TableCell>
          <TableCell align="right">Away</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((line, i) =>
          line === null ? null : (
            <TableRow key={i}>
              <TableCell>
                <strong>{line.market}</strong>, {line.band}
              </TableCell>
              <TableCell>
                {line.reasons.join("; ")} ({line.rungs.map((rung) => rungText(rung).toLowerCase()).join(", ")})
              </TableCell>
              <TableCell align="right">{percentText(line.distance)}</TableCell>
            </TableRow>
          ),
        )}
      </TableBody>
    </Table>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import { Fragment, useRef, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { priceText, rungText } from "#core/marks/wording";
import { isDue } from "#core/round/walk";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import { agreementText } from "../descent/BearingRow.tsx";
import { Needle } from "../descent/Needle.tsx";
import type { Group } from "./order.ts";
import { cellText, clockText, rangeText, toAreaText, verdictText } from "./words.ts";

const STEPS: Record<string, [number, number]> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

interface Props {
  groups: readonly Group[];
  rungs: readonly string[];
  tradable: readonly string[];
  now: number;
  /** Where a cell leads: into the walk. */
  addressOf(market: string, rung: string): string;
}

/** One row a market, one column a rung; a cell is the way in. */
export function Board({ groups, rungs, tradable, now, addressOf }: Props) {
  const body = useRef<HTMLTableElement>(null);
  const walk = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (!step || !cell) return;
    event.preventDefault();
    const [row, column] = (cell.dataset.cell ?? "").split(" ").map(Number);
    body.current?.querySelector<HTMLElement>(`[data-cell="${row + step[0]} ${column + step[1]}"]`)?.focus();
  };
  let index = -1;
  return (
    <Table ref={body} size="small" stickyHeader aria-label="Board" onKeyDown={walk} sx={{ "& td, & th": { px: 0.75, py: 0, whiteSpace: "nowrap", lineHeight: "24px" }, "& thead th": { bgcolor: "background.default", py: 0.5 } }}>
      <TableHead>
        <TableRow>
          <TableCell>Market</TableCell>
          {rungs.map((rung) => (
            <TableCell key={rung} align="center" sx={{ fontStyle: tradable.includes(rung) ? "normal" : "italic" }}>
              {shortRung(rung)}
            </TableCell>
          ))}
          <TableCell align="right">Price</TableCell>
          <TableCell align="right">To area</TableCell>
          <TableCell align="right" title="Range of the day so far, of the mean of the twenty days before">
            Range
          </TableCell>
          <TableCell>Verdict</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {groups.map(({ title, rows }) => (
          <Fragment key={title}>
            {title && (
              <TableRow>
                <TableCell component="th" scope="colgroup" colSpan={rungs.length + 5} sx={{ fontFamily: (theme) => theme.typography.h3.fontFamily, fontWeight: 600, fontSize: "0.95rem", pt: "8px !important" }}>
                  {title}
                </TableCell>
              </TableRow>
            )}
            {rows.map((row) => {
              index++;
              return <Row key={row.id} row={row} rungs={rungs} index={index} now={now} addressOf={addressOf} />;
            })}
          </Fragment>
        ))}
      </TableBody>
    </Table>
  );
}

/** A rung's name where there is room for two or three letters. */
export function shortRung(rung: string): string {
  return { P1Y: "Y", P3M: "Q", P1M: "M", P1W: "W", P1D: "D" }[rung] ?? rungText(rung).replace(" min", "\u2009min");
}

function Row({ row, rungs, index, now, addressOf }: { row: BoardRow; rungs: readonly string[]; index: number; now: number; addressOf: Props["addressOf"] }) {
  const known = row.cells.filter((cell): cell is BoardCell => cell !== null && cell.close !== undefined);
  const note = noteOf(row, now);
  return (
    <TableRow hover>
      <TableCell component="th" scope="row" sx={{ maxWidth: 230, overflow: "hidden", textOverflow: "ellipsis" }}>
        <MuiLink component={Link} to={`/descent/${row.id}`} underline="hover" title={known.length > 0 ? agreementText(known) : undefined}>
          {row.name}
        </MuiLink>
        {note.short && (
          <Box component="span" title={note.whole} sx={{ ml: 0.75, fontSize: "0.78rem", color: "text.secondary" }}>
            {note.short}
          </Box>
        )}
      </TableCell>
      {rungs.map((rung, column) => (
        <TableCell key={rung} align="center">
          <Cell row={row} rung={rung} cell={row.cells[column]} at={`${index} ${column}`} first={index === 0 && column === 0} to={addressOf(row.id, rung)} />
        </TableCell>
      ))}
      <TableCell align="right">{row.standing?.price === undefined ? "" : priceText(row.standing.price, row)}</TableCell>
      <TableCell align="right">{toAreaText(row)}</TableCell>
      <TableCell align="right">{rangeText(row)}</TableCell>
      <TableCell sx={{ maxWidth: 190, overflow: "hidden", textOverflow: "ellipsis" }}>{row.verdict ? <VerdictWord row={row} now={now} /> : row.cells.includes(null) ? "" : known.length === 0 ? "no bars" : ""}</TableCell>
    </TableRow>
  );
}

function VerdictWord({ row, now }: { row: BoardRow; now: number }) {
  if (!row.verdict) return null;
  const { verdict, remark, asksAt } = row.verdict;
  const asks = asksAt !== null && asksAt <= now;
  return (
    <Box component="span" title={verdictText(row.verdict, now)} sx={{ color: verdict === "nothing" ? "text.secondary" : "text.primary" }}>
      <Box component="span" sx={{ fontWeight: verdict === "nothing" ? 400 : 600, fontStyle: verdict === "watch" ? "italic" : "normal", textDecoration: verdict === "plan" ? "underline" : "none", textUnderlineOffset: 3 }}>
        {verdict}
      </Box>
      {asks ? " ask again" : asksAt !== null ? " ?" : ""}
      {remark && <Box component="span" sx={{ fontSize: "0.78rem" }}> {remark}</Box>}
    </Box>
  );
}

/** What is worth knowing of a row before looking: the next of today's events that touch it, and the last words on it. */
export function noteOf({ events, before, verdict }: BoardRow, now: number): { short: string; whole: string } {
  const ahead = events.filter(({ at, allDay }) => allDay || at >= now).sort((a, b) => Number(a.allDay) - Number(b.allDay) || a.at - b.at);
  const [next] = ahead;
  const words = !verdict && before ? `${before.verdict === "nothing" ? "" : `${before.verdict} `}${before.remark || rungText(before.rung)}` : "";
  const when = next && (next.allDay ? next.kind : `${clockText(next.at, now)} ${"|".repeat(next.impact)}`);
  return { short: [when, words].filter(Boolean).join("  "), whole: [...ahead.map(({ at, allDay, title }) => `${allDay ? "today" : clockText(at, now)} ${title}`), words].filter(Boolean).join("; ") };
}

function Cell({ row, rung, cell, at, first, to }: { row: BoardRow; rung: string; cell: BoardCell | null | undefined; at: string; first: boolean; to: string }) {
  const says = cellText(row, cell ?? null);
  const near = row.standing?.near.find((one) => one.rung === rung);
  const area = near && row.standing?.areas[near.area];
  // The same area on a shorter rung of the row is shown lighter: it is no news there.
  const again = near && row.standing?.near.find(({ area: one }) => one === near.area) !== near;
  const due = cell ? isDue(cell) : false;
  return (
    <Box
      component={Link}
      to={to}
      data-cell={at}
      tabIndex={first ? 0 : -1}
      aria-label={`${row.name}, ${rungText(rung)}: ${says}`}
      title={`${rungText(rung)}: ${says}`}
      sx={{ position: "relative", display: "flex", mx: "auto", alignItems: "center", justifyContent: "center", width: 34, height: 24, color: cell?.direction === "sideways" ? "text.disabled" : "text.primary", textDecoration: "none" }}
    >
      {area && (
        <Box component="span" sx={{ position: "absolute", left: 1, top: 5, height: 15, width: 4, border: "2px solid", borderRight: 0, borderStyle: area.own ? "solid" : "dotted", borderColor: (theme) => theme.vars?.palette.compass.umber, opacity: again ? 0.4 : 1 }} />
      )}
      {cell && cell.close !== undefined ? (
        <Box component="span" sx={{ display: "inline-flex", borderRadius: "50%", border: "1.5px solid", borderColor: cell.shifted ? "text.primary" : "transparent", lineHeight: 0 }}>
          <Needle direction={cell.direction} />
        </Box>
      ) : (
        <Box component="span" sx={{ color: "text.disabled" }}>
          ·
        </Box>
      )}
      {near?.candle && (
        <Box component="span" sx={{ position: "absolute", right: 1, bottom: 2, fontSize: "0.66rem", lineHeight: 1, fontWeight: 700, color: "text.primary" }}>
          {near.candle === "indecision" ? "+" : "\u25ae"}
        </Box>
      )}
      {due && <Box component="span" sx={{ position: "absolute", right: 2, top: 3, width: 4.5, height: 4.5, borderRadius: "50%", bgcolor: "text.primary" }} />}
    </Box>
  );
}

import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import type { SxProps, Theme } from "@mui/material/styles";
import {
  Fragment,
  useLayoutEffect,
  useRef,
  type FocusEvent,
  type KeyboardEvent,
  type MouseEvent,
  type RefObject,
} from "react";
import { Link } from "react-router";
import { priceText, rungText } from "#core/marks/wording";
import { asksAgain } from "#core/round/verdict";
import { isDue } from "#core/round/walk";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import { agreementText } from "../descent/bearings/BearingRow.tsx";
import { Needle } from "../descent/rungs/Needle.tsx";
import type { Group } from "./order.ts";
import { cellText, clockText, rangeText, toAreaText, verdictText } from "./words.ts";

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

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
  // What a cell says is shown under the pointer, too; it need not be sent twice.
  const name = (event: MouseEvent) => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (cell && !cell.title) cell.title = cell.getAttribute("aria-label") ?? "";
  };
  const held = useHeldFocus(body);
  let index = -1;
  return (
    <Table
      ref={body}
      size="small"
      stickyHeader
      aria-label="Board"
      onKeyDown={walk}
      onMouseOver={name}
      {...held}
      sx={{
        ...CELLS,
        "& td, & th": {
          px: 0.75,
          py: 0,
          fontSize: "0.9rem",
          borderBottom: 1,
          borderColor: "divider",
          whiteSpace: "nowrap",
          lineHeight: "24px",
        },
        "& thead th": { bgcolor: "background.default", py: 0.5, fontSize: "0.8rem" },
      }}
    >
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
                <TableCell
                  component="th"
                  scope="colgroup"
                  colSpan={rungs.length + 5}
                  sx={{
                    fontFamily: (theme) => theme.typography.h3.fontFamily,
                    fontWeight: 600,
                    fontSize: "0.95rem",
                    pt: "8px !important",
                  }}
                >
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

/**
 * A row that moves to another group is put in anew, and what had the focus in it would lose it: the cell of the same
 * market and rung has it again.
 */
function useHeldFocus(table: RefObject<HTMLTableElement | null>) {
  const held = useRef<{ market: string; rung: string }>(undefined);
  useLayoutEffect(() => {
    if (!held.current || document.activeElement !== document.body) return;
    const { market, rung } = held.current;
    const row = `[data-market="${CSS.escape(market)}"]`;
    table.current?.querySelector<HTMLElement>(`${row} [data-rung="${rung}"]`)?.focus();
  });
  return {
    onFocus({ target }: FocusEvent<HTMLElement>) {
      const market = target.closest<HTMLElement>("[data-market]")?.dataset.market;
      const { rung } = target.dataset;
      held.current = market && rung ? { market, rung } : undefined;
    },
    onBlur({ target }: FocusEvent<HTMLElement>) {
      // Somebody went elsewhere, unless it is gone in a moment.
      queueMicrotask(() => {
        if (target.isConnected) held.current = undefined;
      });
    },
  };
}

/** A rung's name where there is room for two or three letters. */
export function shortRung(rung: string): string {
  return { P1Y: "Y", P3M: "Q", P1M: "M", P1W: "W", P1D: "D" }[rung] ?? rungText(rung).replace(" min", "\u2009min");
}

function Row({
  row,
  rungs,
  index,
  now,
  addressOf,
}: {
  row: BoardRow;
  rungs: readonly string[];
  index: number;
  now: number;
  addressOf: Props["addressOf"];
}) {
  const known = row.cells.filter((cell): cell is BoardCell => cell !== null && cell.close !== undefined);
  const note = noteOf(row, now);
  return (
    <tr data-market={row.id}>
      <th scope="row" className="market">
        <Link to={`/descent/${row.id}`} title={known.length > 0 ? agreementText(known) : undefined}>
          {row.name}
        </Link>
        {note.short && (
          <span className="note" title={note.whole}>
            {note.short}
          </span>
        )}
      </th>
      {rungs.map((rung, column) => (
        <td key={rung}>
          <Cell
            row={row}
            rung={rung}
            cell={row.cells[column]}
            at={`${index} ${column}`}
            first={index === 0 && column === 0}
            to={addressOf(row.id, rung)}
          />
        </td>
      ))}
      <td className="figure">{row.standing?.price === undefined ? "" : priceText(row.standing.price, row)}</td>
      <td className="figure">{toAreaText(row)}</td>
      <td className="figure">{rangeText(row)}</td>
      <td className="verdict">
        {row.verdict ? (
          <VerdictWord row={row} now={now} />
        ) : !row.cells.includes(null) && known.length === 0 ? (
          "no bars"
        ) : (
          ""
        )}
      </td>
    </tr>
  );
}

function VerdictWord({ row, now }: { row: BoardRow; now: number }) {
  if (!row.verdict) return null;
  const { verdict, remark, asksAt } = row.verdict;
  return (
    <span className={verdict} title={verdictText(row.verdict, now)}>
      <em>{verdict}</em>
      {asksAgain(row.verdict, now) ? " ask again" : asksAt !== null ? " ?" : ""}
      {remark && <small> {remark}</small>}
    </span>
  );
}

/**
 * What is worth knowing of a row before looking: the next of today's events that touch it, and the last words on it.
 */
export function noteOf({ events, before, verdict }: BoardRow, now: number): { short: string; whole: string } {
  const ahead = events
    .filter(({ at, allDay }) => allDay || at >= now)
    .sort((a, b) => Number(a.allDay) - Number(b.allDay) || a.at - b.at);
  const [next] = ahead;
  const words =
    !verdict && before
      ? `${before.verdict === "nothing" ? "" : `${before.verdict} `}${before.remark || rungText(before.rung)}`
      : "";
  const when = next && (next.allDay ? next.kind : `${clockText(next.at, now)} ${"|".repeat(next.impact)}`);
  return {
    short: [when, words].filter(Boolean).join("  "),
    whole: [...ahead.map(({ at, allDay, title }) => `${allDay ? "today" : clockText(at, now)} ${title}`), words]
      .filter(Boolean)
      .join("; "),
  };
}

function Cell({
  row,
  rung,
  cell,
  at,
  first,
  to,
}: {
  row: BoardRow;
  rung: string;
  cell: BoardCell | null | undefined;
  at: string;
  first: boolean;
  to: string;
}) {
  const near = row.standing?.near.find((one) => one.rung === rung);
  const area = near && row.standing?.areas[near.area];
  // The same area on a shorter rung of the row is shown lighter: it is no news there.
  const again = near && row.standing?.near.find(({ area: one }) => one === near.area) !== near;
  const due = cell ? isDue(cell) : false;
  return (
    <Link
      to={to}
      data-cell={at}
      data-rung={rung}
      tabIndex={first ? 0 : -1}
      aria-label={`${row.name}, ${rungText(rung)}: ${cellText(row, cell ?? null)}`}
      className={cell?.direction === "sideways" ? "cell flat" : "cell"}
    >
      {area && <i className={`near${area.own ? "" : " offered"}${again ? " again" : ""}`} />}
      {cell && cell.close !== undefined ? (
        <span className={cell.shifted ? "shifted" : undefined}>
          <Needle direction={cell.direction} bare />
        </span>
      ) : (
        "\u00b7"
      )}
      {near?.candle && <b>{near.candle === "indecision" ? "+" : "\u25ae"}</b>}
      {due && <i className="due" />}
    </Link>
  );
}

/** One style for all cells: a board has hundreds of them. */
const CELLS: SxProps<Theme> = {
  "& .cell": {
    position: "relative",
    display: "flex",
    mx: "auto",
    alignItems: "center",
    justifyContent: "center",
    width: 34,
    height: 24,
    color: "text.primary",
    textDecoration: "none",
  },
  "& .cell.flat": { color: "text.disabled" },
  "& .cell > span": { display: "inline-flex", borderRadius: "50%", border: "1.5px solid transparent", lineHeight: 0 },
  "& .cell > .shifted": { borderColor: "text.primary" },
  "& .cell > b": {
    position: "absolute",
    right: 1,
    bottom: 2,
    fontSize: "0.66rem",
    lineHeight: 1,
    color: "text.primary",
  },
  "& .near": {
    position: "absolute",
    left: 1,
    top: 5,
    height: 15,
    width: 4,
    border: "2px solid",
    borderRight: 0,
    borderColor: (theme) => theme.vars?.palette.compass.umber,
  },
  "& .near.offered": { borderStyle: "dotted", borderRight: 0 },
  "& .near.again": { opacity: 0.4 },
  "& tbody tr:hover": { bgcolor: "action.hover" },
  "& .market": {
    textAlign: "left",
    fontWeight: 400,
    width: "1%",
    maxWidth: 230,
    overflow: "hidden",
    textOverflow: "ellipsis",
  },
  "& .market a": { color: "inherit", textDecoration: "none", "&:hover": { textDecoration: "underline" } },
  "& .note": { ml: 0.75, fontSize: "0.78rem", color: "text.secondary" },
  "& .figure": { textAlign: "right" },
  "& .verdict": { width: "22%", maxWidth: 0, overflow: "hidden", textOverflow: "ellipsis" },
  "& .verdict em": { fontStyle: "normal", fontWeight: 600 },
  "& .verdict small": { fontSize: "0.78rem" },
  "& .watch em": { fontStyle: "italic" },
  "& .plan em": { textDecoration: "underline", textUnderlineOffset: 3 },
  "& .nothing": { color: "text.secondary", "& em": { fontWeight: 400 } },
  "& .due": {
    position: "absolute",
    right: 2,
    top: 3,
    width: 4.5,
    height: 4.5,
    borderRadius: "50%",
    bgcolor: "text.primary",
  },
};

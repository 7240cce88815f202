import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { useState, type RefObject } from "react";
import { Link } from "react-router";
import { distanceTo, type Area } from "#core/areas/areas";
import type { RungReading } from "#core/finding/reading";
import { asksAgain, type Verdict } from "#core/round/verdict";
import { percentText, priceText, rungText } from "#core/marks/wording";
import { spanText } from "../../../chart/measure.ts";
import type { BoardCell, BoardRow } from "../../../server/round/board.ts";
import { AlertChoices } from "../alerts/AlertChoices.tsx";
import { ReasonLines } from "../descent/machine/ReasonLines.tsx";
import { Calls } from "./Calls.tsx";
import { QuickRuler } from "./QuickRuler.tsx";
import { clockText, rangeText, verdictText } from "./words.ts";

interface Props {
  row: BoardRow;
  rung: string;
  cell: BoardCell | undefined;
  reading: RungReading | undefined;
  areas: readonly Area[];
  price: number | undefined;
  now: number;
  opened: "ruler" | "alert" | undefined;
  remark: RefObject<HTMLInputElement | null>;
  onSay(verdict: Verdict): void;
  onAskAgain(): void;
  onRemark(words: string): void;
  onOpen(what: "ruler" | "alert"): void;
  onNext(): void;
  last: boolean;
  /** What was written here, just now. */
  written: string;
}

const AREAS = 3;

/**
 * Everything for the decision at a stop: what the rung says and why, what is near, what was said before, and the
 * verdict.
 */
export function StopPanel({
  row,
  rung,
  cell,
  reading,
  areas,
  price,
  now,
  opened,
  remark,
  onSay,
  onAskAgain,
  onRemark,
  onOpen,
  onNext,
  last,
  written,
}: Props) {
  const { verdict, before, events } = row;
  const [words, setWords] = useState(verdict?.remark ?? "");
  const near =
    price === undefined
      ? []
      : [...areas].sort((a, b) => Math.abs(distanceTo(a, price)) - Math.abs(distanceTo(b, price))).slice(0, AREAS);
  const candle = row.standing?.near.find((one) => one.rung === rung)?.candle;
  const elsewhere = row.standing?.near.filter((one) => one.rung !== rung).map((one) => rungText(one.rung)) ?? [];
  const verdictButton = (what: Verdict, key: string) => (
    <Button
      variant={verdict?.verdict === what ? "contained" : "outlined"}
      aria-pressed={verdict?.verdict === what}
      onClick={() => onSay(what)}
      title={key}
    >
      {what[0].toUpperCase() + what.slice(1)}
    </Button>
  );
  const keep = () => words.trim() !== (verdict?.remark ?? "") && onRemark(words.trim());
  return (
    <Box
      component="aside"
      aria-label="This stop"
      sx={{
        width: { xs: "100%", md: 300 },
        flexShrink: 0,
        overflowY: { xs: "visible", md: "auto" },
        bgcolor: "background.paper",
        borderLeft: { xs: 0, md: 1 },
        borderTop: { xs: 1, md: 0 },
        borderColor: "divider",
        px: 2,
        py: 1.25,
      }}
    >
      <Typography variant="h3">
        {cell ? `${cell.direction[0].toUpperCase()}${cell.direction.slice(1)} on ${rungText(rung)}` : "Being read"}
        {cell?.own ? ", by hand" : ""}
      </Typography>
      {cell?.own && cell.machine !== cell.direction && (
        <Typography variant="body2">The machine reads it {cell.machine}.</Typography>
      )}
      {reading && <ReasonLines bearing={reading.bearing} market={row} />}
      <Typography variant="body2" sx={{ mt: 0.75 }}>
        {cell?.closesAt !== undefined && cell.closesAt > now
          ? `The bar closes at ${clockText(cell.closesAt, now)}, in ${spanText(cell.closesAt - now)}. `
          : ""}
        {row.standing?.range ? `Today's range is ${rangeText(row)} of the usual.` : ""}
      </Typography>
      {near.length > 0 && price !== undefined && (
        <Box
          component="ul"
          aria-label="Nearest areas"
          sx={{ listStyle: "none", p: 0, mt: 0.75, mb: 0, fontSize: "0.875rem" }}
        >
          {near.map((area) => {
            const distance = distanceTo(area, price);
            return (
              <Box
                component="li"
                key={`${area.bottom} ${area.top}`}
                sx={{
                  display: "flex",
                  justifyContent: "space-between",
                  borderLeft: "3px solid",
                  borderColor: (theme) => theme.vars?.palette.compass.umber,
                  pl: 0.75,
                  mb: 0.25,
                }}
              >
                <span title={area.rungs.map(rungText).join(", ")}>
                  {priceText(area.bottom, row)} to {priceText(area.top, row)}
                </span>
                <span>
                  {distance === 0
                    ? "price is in it"
                    : `${distance > 0 ? "\u2191" : "\u2193"} ` +
                      percentText(Math.abs(distance / price), 2) +
                      (reading && reading.atr > 0 ? `, ${(Math.abs(distance) / reading.atr).toFixed(1)} ATR` : "")}
                </span>
              </Box>
            );
          })}
        </Box>
      )}
      {candle && (
        <Typography variant="body2">{candle[0].toUpperCase() + candle.slice(1)} candle at the area.</Typography>
      )}
      {elsewhere.length > 0 && (
        <Typography variant="caption" color="text.secondary" component="p">
          Near an area on {elsewhere.join(", ")} as well.
        </Typography>
      )}
      {events.slice(0, 4).map(({ id, title, at, allDay, why }) => (
        <Typography
          key={id}
          variant="body2"
          sx={{ mt: 0.25 }}
          color={!allDay && at < now ? "text.secondary" : "text.primary"}
        >
          <strong>{allDay ? "Today" : clockText(at, now)}</strong> {title} ({why})
        </Typography>
      ))}
      <Calls calls={row.calls} market={row.id} rung={rung} said={written} />
      {before && (
        <Typography variant="body2" sx={{ mt: 0.75, borderTop: 1, borderColor: "divider", pt: 0.5 }}>
          Before, {clockText(before.saidAt, now)}: {verdictText({ ...before, asksAt: null }, now)}
        </Typography>
      )}
      <Box
        role="group"
        aria-label="Verdict"
        sx={{ display: "flex", gap: 0.75, mt: 1.25, borderTop: "1.5px solid", borderColor: "text.primary", pt: 1 }}
      >
        {verdictButton("watch", "W")}
        {verdictButton("plan", "P")}
        {verdictButton("nothing", "0")}
      </Box>
      {verdict && verdict.verdict !== "nothing" && (
        <Button
          variant="text"
          sx={{ px: 0, py: 0, minHeight: 24 }}
          onClick={onAskAgain}
          aria-pressed={verdict.asksAt !== null}
          title="Y"
        >
          {verdict.asksAt === null
            ? "Only if it closes like this"
            : asksAgain(verdict, now)
              ? "The bar has closed: does it stand?"
              : `To be asked again at ${clockText(verdict.asksAt, now)}`}
        </Button>
      )}
      <TextField
        label="Remark"
        value={words}
        inputRef={remark}
        onChange={(event) => setWords(event.target.value.slice(0, 500))}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key !== "Enter" && event.key !== "Escape") return;
          event.preventDefault();
          // The window would take Escape as the way back to the board.
          event.stopPropagation();
          (event.target as HTMLElement).blur();
        }}
        sx={{ mt: 0.5 }}
      />
      <Box sx={{ display: "flex", gap: 0.75, mt: 1, flexWrap: "wrap" }}>
        <Button onClick={() => onOpen("ruler")} aria-expanded={opened === "ruler"} title="M">
          Reward to risk
        </Button>
        <Button onClick={() => onOpen("alert")} aria-expanded={opened === "alert"} title="A">
          Alert
        </Button>
        <Button variant="contained" onClick={onNext} title="N">
          {last ? "To the end" : "Next"}
        </Button>
      </Box>
      {opened === "ruler" && price !== undefined && (
        <QuickRuler
          key={rung}
          row={row}
          rung={rung}
          price={price}
          atr={reading?.atr ?? 0}
          areas={areas}
          direction={cell?.direction === "down" ? "short" : "long"}
        />
      )}
      {opened === "alert" && (
        <AlertChoices
          key={rung}
          market={row}
          rung={rung}
          areas={near}
          atr={reading?.atr ?? 0}
          onLeave={() => onOpen("alert")}
        />
      )}
      <Box
        sx={{
          display: "flex",
          gap: 1.5,
          mt: 1.25,
          borderTop: 1,
          borderColor: "divider",
          pt: 0.75,
          fontSize: "0.85rem",
        }}
      >
        <MuiLink component={Link} to={`/descent/${row.id}?rung=${rung}`}>
          Descend
        </MuiLink>
        <MuiLink component={Link} to={`/round/${row.id}/plan`}>
          Day plan
        </MuiLink>
      </Box>
      <Typography variant="caption" color="text.secondary" component="p" sx={{ mt: 0.75 }}>
        N next, which says nothing here. J next market. B back. W watch, P plan, R remark. Enter descends, Escape to the
        board.
      </Typography>
    </Box>
  );
}

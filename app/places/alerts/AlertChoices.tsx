import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { AlertTerms, Place } from "#core/alerts/alert";
import { sayAlert } from "#core/alerts/say";
import type { MarketFacts } from "#core/marks/kind";
import { priceText, rungText } from "#core/marks/wording";
import { toTick } from "#core/series/tick";
import { parseNumber } from "../../parts/numbers.ts";
import { failureText, postJson } from "../../parts/post.ts";

interface Props {
  market: MarketFacts;
  rung: string;
  /** Where an alert may wait; the nearest first. */
  areas: readonly { bottom: number; top: number; rungs: readonly string[] }[];
  /** A mark it may wait at. */
  mark?: { id: string; name: string; bottom: number; top: number };
  /** A price it may wait at, to begin with: one that was clicked. */
  at?: number;
  atr: number;
  onLeave(): void;
}

/** How far price must be gone before another arrival counts: the height of the place, or half an ATR. */
export function leaveOf({ bottom, top }: { bottom: number; top: number }, atr: number): number {
  return Math.max(top - bottom, atr / 2);
}

/** "the area of Week and Day", "the area of 8 rungs, Year to 15 min". */
export function areaName(rungs: readonly string[]): string {
  const names = rungs.map(rungText);
  return rungs.length <= 2
    ? `the area of ${names.join(" and ")}`
    : `the area of ${rungs.length} rungs, ${names[0]} to ${names[names.length - 1]}`;
}

/** The alerts that make sense here, each one press away: at a price that was said before anything else. */
export function alertsFor({
  rung,
  areas,
  mark,
  at,
  atr,
}: Pick<Props, "rung" | "areas" | "mark" | "at" | "atr">): AlertTerms[] {
  const base = { again: false, note: "" };
  const price = at === undefined ? undefined : { bottom: at, top: at };
  const place: Place | undefined = price
    ? { ...price, name: "", leave: leaveOf(price, atr) }
    : mark
      ? { bottom: mark.bottom, top: mark.top, name: mark.name, mark: mark.id, leave: leaveOf(mark, atr) }
      : areas[0] && {
          bottom: areas[0].bottom,
          top: areas[0].top,
          name: areaName(areas[0].rungs),
          leave: leaveOf(areas[0], atr),
        };
  return [
    ...(place
      ? ([
          { on: "reach", at: place, ...base },
          { on: "beyond", rung, at: place, ...base },
          { on: "candle", rung, at: place, candle: "either", ...base },
        ] as const)
      : []),
    { on: "shift", rung, direction: "either", ...base },
    { on: "close", rung, ...base },
  ];
}

export function AlertChoices({ market, rung, areas, mark, at, atr, onLeave }: Props) {
  const [again, setAgain] = useState(false);
  const [typed, setTyped] = useState(at === undefined ? "" : priceText(at, market));
  const typedPrice = parseNumber(typed);
  const price = Number.isFinite(typedPrice) ? toTick(typedPrice, market.tick, market.decimals) : undefined;
  const [said, setSaid] = useState("");
  const set = async (terms: AlertTerms) => {
    const posted = await postJson(`/alerts/${market.id}/set`, { terms: { ...terms, again } });
    setSaid(posted.ok ? "Set. It will tell you here, on whatever page you are." : failureText(posted.failure));
  };
  return (
    <Box component="section" aria-label="Alert" sx={{ mt: 1.25, borderTop: 1, borderColor: "divider", pt: 1 }}>
      <Typography variant="body2">Tell me when ...</Typography>
      <TextField
        label="At a price"
        value={typed}
        error={typed.trim() !== "" && price === undefined}
        helperText={typed.trim() !== "" && price === undefined ? "This is not a number." : undefined}
        onChange={({ target }) => setTyped(target.value)}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: "decimal", maxLength: 30 } }}
        sx={{ my: 0.75 }}
      />
      {alertsFor({
        ...{ rung, areas, atr },
        ...(mark ? { mark } : {}),
        ...(price === undefined ? {} : { at: price }),
      }).map((terms, i) => (
        <Button
          key={terms.on}
          variant="text"
          autoFocus={i === 0}
          onClick={() => void set(terms)}
          sx={{ display: "block", width: "100%", textAlign: "left", px: 0.5, py: 0.25, minHeight: 24, fontWeight: 400 }}
        >
          {sayAlert(terms, market)}
        </Button>
      ))}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 0.5 }}>
        <Button
          variant="text"
          sx={{ px: 0.5, py: 0, minHeight: 24 }}
          aria-pressed={again}
          onClick={() => setAgain(!again)}
        >
          {again ? "Every time" : "Once"}
        </Button>
        <Button variant="text" sx={{ px: 0.5, py: 0, minHeight: 24 }} onClick={onLeave}>
          Close
        </Button>
      </Box>
      {said && (
        <Typography variant="caption" role="alert" component="p">
          {said}
        </Typography>
      )}
    </Box>
  );
}

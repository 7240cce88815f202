import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { distanceTo, type Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { bandText, countText, percentText, pipsText, priceText, rungText } from "#core/marks/wording";
import { AlertChoices } from "../../alerts/AlertChoices.tsx";

interface Props {
  areas: readonly Area[];
  /** Made of what the machine offers: the analyst's marks make none yet. */
  areOffers: boolean;
  market: MarketFacts;
  price: number;
  atr: number;
  chosen: Area | undefined;
  onChoose(area: Area | undefined): void;
  /** Selects the mark a reason is of, or goes to the offer. */
  onReason(id: string): void;
  /** Begins a scenario at an area. */
  onWriteScenario: ((area: Area) => void) | undefined;
  /** The rung an alert at an area is judged on; none where none can be set. */
  alertRung: string | undefined;
}

/** Listed at once: the nearest, and the chosen one wherever it is. */
const LISTED = 6;

/** Where marks of several rungs meet, nearest to price first; the chosen one with its reasons. */
export function AreaList({
  areas,
  areOffers,
  market,
  price,
  atr,
  chosen,
  onChoose,
  onReason,
  onWriteScenario,
  alertRung,
}: Props) {
  if (areas.length === 0) return null;
  const near = [...areas].sort(
    (a, b) => Math.abs(distanceTo(a, price)) - Math.abs(distanceTo(b, price)) || b.weight - a.weight,
  );
  return (
    <Box component="section" aria-label="Areas" sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}>
      <Typography variant="h3">
        {countText(areas.length, "area")}
        {areOffers ? " of proposals" : ""}
      </Typography>
      <Box component="ul" aria-label="Areas by distance" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {near
          .filter((area, i) => i < LISTED || area === chosen)
          .map((area) => {
            const on = area === chosen;
            return (
              <Box component="li" key={`${area.bottom} ${area.top}`}>
                <Box
                  component={ButtonBase}
                  disableRipple
                  aria-pressed={on}
                  onClick={() => onChoose(on ? undefined : area)}
                  sx={{
                    display: "block",
                    width: "100%",
                    minHeight: 24,
                    borderRight: "3px solid",
                    borderRightColor: on ? "text.primary" : "transparent",
                    p: 0.5,
                    font: "inherit",
                    fontSize: "0.85rem",
                    textAlign: "left",
                    color: "text.primary",
                    bgcolor: on ? "background.default" : "transparent",
                  }}
                >
                  <Box component="span" sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}>
                    <span style={{ whiteSpace: "nowrap" }}>{bandText(area, market)}</span>
                    <Box component="span" sx={{ fontSize: "0.78rem", color: "text.secondary", textAlign: "right" }}>
                      {area.rungs.map(rungText).join(", ")}; {countText(area.reasons.length, "reason")}
                    </Box>
                  </Box>
                  <Box component="span" sx={{ display: "block", fontSize: "0.78rem", color: "text.secondary" }}>
                    {distanceText(distanceTo(area, price), price, atr, market)}
                  </Box>
                </Box>
                {on && (
                  <Reasons
                    area={area}
                    market={market}
                    onReason={onReason}
                    onWriteScenario={onWriteScenario}
                    alertRung={alertRung}
                    atr={atr}
                  />
                )}
              </Box>
            );
          })}
      </Box>
    </Box>
  );
}

function Reasons({
  area,
  market,
  onReason,
  onWriteScenario,
  alertRung,
  atr,
}: Pick<Props, "market" | "onReason" | "onWriteScenario" | "alertRung" | "atr"> & { area: Area }) {
  const [alerting, setAlerting] = useState(false);
  return (
    <Box sx={{ pl: 1, borderLeft: "2px solid", borderColor: "divider", ml: 0.5 }}>
      {area.reasons.map(({ id, name, rung, bottom, top }) => (
        <Button
          key={`${id} ${bottom} ${name}`}
          variant="text"
          onClick={() => onReason(id)}
          sx={{
            display: "flex",
            justifyContent: "space-between",
            width: "100%",
            px: 0.5,
            py: 0,
            minHeight: 24,
            textAlign: "left",
            fontSize: "0.8rem",
          }}
        >
          <span>
            {rungText(rung)}: {name} {bandText({ bottom, top }, market)}
          </span>
        </Button>
      ))}
      {onWriteScenario && (
        <Button variant="text" sx={{ px: 0.5, py: 0, minHeight: 24 }} onClick={() => onWriteScenario(area)}>
          Plan a scenario here
        </Button>
      )}
      {alertRung && (
        <Button
          variant="text"
          sx={{ px: 0.5, py: 0, minHeight: 24 }}
          aria-expanded={alerting}
          onClick={() => setAlerting(!alerting)}
        >
          Alert
        </Button>
      )}
      {alerting && alertRung && (
        <AlertChoices market={market} rung={alertRung} areas={[area]} atr={atr} onLeave={() => setAlerting(false)} />
      )}
    </Box>
  );
}

/** "34.0 pip above, 0.80 %, 1.2 ATR", or that price is inside. */
function distanceText(distance: number, price: number, atr: number, market: MarketFacts): string {
  if (distance === 0) return "price is in it";
  const way = distance > 0 ? "above" : "below";
  const size = Math.abs(distance);
  return (
    `${pipsText(size, market)} ${way}, ` +
    `${percentText(size / Math.abs(price), 2)}${atr > 0 ? `, ${priceText(size / atr, { decimals: 1 })} ATR` : ""}`
  );
}

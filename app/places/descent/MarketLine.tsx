import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import Typography from "@mui/material/Typography";
import visuallyHidden from "@mui/utils/visuallyHidden";
import { useNavigate } from "react-router";
import type { MarketFacts } from "#core/marks/kind";
import { percentText, priceText, rungText } from "#core/marks/wording";
import type { Hours } from "#core/series/hours";
import { closeOfBar } from "#core/series/resample";
import { spanText } from "../../../chart/measure.ts";
import { keyOf, keyText, useKeyChoice } from "../../parts/keys.ts";
import { SERIF } from "../../theme/theme.ts";
import type { Horizons } from "#core/finding/horizon";
import type { Mark } from "#core/marks/kind";
import { BearingRow, type RungBearing } from "./bearings/BearingRow.tsx";
import { KINDS, type Placing } from "./marks/kinds.ts";
import type { PaneView } from "./charts/Pane.tsx";
import { viewAddress } from "./charts/view.ts";

interface Props {
  /** The market that is open. */
  home: MarketFacts;
  markets: { id: string; name: string }[];
  /** The chart that is worked on, once it is there. */
  view: PaneView | undefined;
  rung: string;
  /** What the machine reads on each rung, and the marks among which the analyst's own bearings are. */
  readings: readonly RungBearing[];
  known: readonly Mark[];
  horizons: Horizons;
  onHorizons(horizons: Horizons): void;
  placing: Placing | undefined;
  begin(kind: string): void;
  now: number;
  /** Which hours are shown; undefined where the market has no others than its regular ones. */
  hours: Hours | undefined;
  asOf: number | undefined;
}

/** The market's name and price, when its bar closes, and the steps of the work in their order. */
export function MarketLine({
  home,
  markets,
  view,
  rung,
  readings,
  known,
  horizons,
  onHorizons,
  placing,
  begin,
  now,
  hours,
  asOf,
}: Props) {
  const navigate = useNavigate();
  const keys = useKeyChoice();
  const market = view?.desk.market ?? home;
  const bars = view?.bars?.series;
  const marks = view?.argued ?? [];
  const n = bars?.length ?? 0;
  const close = bars && n > 0 ? bars.close[n - 1] : undefined;
  const change = bars && n > 1 ? bars.close[n - 1] - bars.close[n - 2] : undefined;
  const ends = view && bars && n > 0 ? closeOfBar(bars.time[n - 1], view.timeframe, view.calendar) : undefined;
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        flexWrap: "wrap",
        columnGap: 2,
        px: 2,
        minHeight: 54,
        borderBottom: 1,
        borderColor: "divider",
      }}
    >
      <Select
        variant="standard"
        disableUnderline
        value={home.id}
        onChange={(event) => void navigate(`/descent/${event.target.value}?rung=${rung}`)}
        inputProps={{ "aria-label": "Market" }}
        sx={{ fontFamily: SERIF, fontSize: "1.6rem", fontWeight: 600 }}
      >
        {markets.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </Select>
      <h1 style={visuallyHidden}>
        {home.name}, {rungText(rung)}
      </h1>
      {market.id !== home.id && <Typography>{market.name}</Typography>}
      {close !== undefined && <Typography sx={{ fontSize: "1.3rem" }}>{priceText(close, market)}</Typography>}
      {change !== undefined && close !== undefined && (
        <Typography variant="body2" color="text.secondary">
          {change >= 0 ? "+" : ""}
          {priceText(change, market)} {percentText(change / (close - change), 2)} on the {rungText(rung).toLowerCase()}
        </Typography>
      )}
      {ends !== undefined && ends > now && (
        <Typography variant="body2" color="text.secondary">
          {rungText(rung)} closes in <strong>{spanText(Math.ceil((ends - now) / 60_000) * 60_000)}</strong>
        </Typography>
      )}
      {hours && (
        <Button
          variant="text"
          aria-pressed={hours === "regular"}
          title="Leave out what is traded overnight"
          onClick={() =>
            void navigate(viewAddress(rung, hours === "regular" ? "all" : "regular", asOf), {
              preventScrollReset: true,
            })
          }
        >
          {hours === "regular" ? "Regular hours" : "All hours"}
        </Button>
      )}
      <Box sx={{ flex: 1 }} />
      <Box role="group" aria-label="Steps" sx={{ display: "flex", overflowX: { xs: "auto", md: "visible" } }}>
        {KINDS.map(({ kind, step, more }) => {
          const count = marks.filter((mark) => mark.kind === kind).length;
          const on = placing?.kind === kind;
          if (more && count === 0 && !on) return null;
          return (
            <Button
              key={kind}
              variant="text"
              onClick={() => begin(kind)}
              aria-pressed={on}
              title={["Place one", keyText(keyOf(kind, keys))].filter(Boolean).join(", ")}
              sx={{
                fontWeight: on ? 600 : 400,
                borderBottom: "2px solid",
                borderColor: on ? "text.primary" : "transparent",
                borderRadius: 0,
                gap: 0.5,
                px: 0.75,
                minWidth: 0,
              }}
            >
              {step} <strong>{count > 0 ? count : "+"}</strong>
            </Button>
          );
        })}
      </Box>
      <BearingRow market={market} rungs={readings} marks={known} horizons={horizons} onHorizons={onHorizons} />
    </Box>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMemo, useState } from "react";
import type { ColumnRules } from "#core/columns/columns";
import { agrees, leadingTargets, type LeadingTarget } from "#core/columns/leading";
import { moveOfTarget } from "#core/columns/asMove";
import { pointAndFigureOf, type PointAndFigure } from "#core/columns/pointAndFigure";
import type { ColumnTarget } from "#core/columns/targets";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { measuredMove } from "#core/marks/measuring/measuredMove";
import { countText, percentText, priceText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { NumberField } from "../../../parts/NumberField.tsx";
import { scaledColumns } from "./columnRules.ts";
import { boxText } from "../../../../chart/columns.ts";

interface Props {
  rules: ColumnRules;
  chart: PointAndFigure | undefined;
  /** Why there are no columns. */
  problem: string | undefined;
  series: Series;
  market: MarketFacts;
  rung: string;
  /** How a time of a bar is read. */
  when(time: number): string;
  onChange(rules: ColumnRules): void;
  onTake(mark: Mark): void;
}

const SIZES = { percent: "percent", fixed: "price", atr: "ATR" } as const;
type Size = keyof typeof SIZES;
const sizeOf = ({ box }: ColumnRules): Size =>
  typeof box === "number" ? "fixed" : "percent" in box ? "percent" : "atr";
const numberOf = ({ box }: ColumnRules): number =>
  typeof box === "number" ? box : "percent" in box ? box.percent : box.multiple;
/** Targets listed at once. */
const MOST = 8;

/** How columns are made, and what they count for: targets that stand, with what they are, how far, since when. */
export function ColumnPanel({ rules, chart, problem, series, market, rung, when, onChange, onTake }: Props) {
  const size = sizeOf(rules);
  const withBox = (kind: Size, value: number): ColumnRules["box"] =>
    kind === "fixed" ? value : kind === "percent" ? { percent: value } : { atr: 14, multiple: value };
  const targets = chart ? leadingTargets(chart.targets).slice(0, MOST) : [];
  const others = useMemo(() => otherSizes(rules, series, market), [rules, series, market]);
  const close = series.close[series.length - 1] ?? 0;
  return (
    <Box component="section" aria-label="Columns" sx={{ borderTop: 1, borderColor: "divider", pt: 1.5, mt: 1.5 }}>
      <Typography variant="h3">Columns</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mt: 1 }}>
        <TextField
          select
          label="Box in"
          value={size}
          onChange={({ target }) => {
            const next = target.value as Size;
            const usual = { percent: 1, atr: 0.5, fixed: usualBox(close, market) };
            onChange({ ...rules, box: withBox(next, usual[next]) });
          }}
        >
          {Object.entries(SIZES).map(([value, text]) => (
            <MenuItem key={value} value={value}>
              {text}
            </MenuItem>
          ))}
        </TextField>
        <NumberField
          label={size === "percent" ? "Box (%)" : size === "atr" ? "Box (x ATR 14)" : "Box (price)"}
          value={numberOf(rules)}
          decimals={size === "fixed" ? market.decimals : 2}
          problem={(value) => boxProblem(size, value, market)}
          onCommit={(value) => onChange({ ...rules, box: withBox(size, value) })}
        />
        <TextField
          select
          label="Turns after"
          value={rules.reversal}
          onChange={({ target }) => onChange({ ...rules, reversal: Number(target.value) })}
        >
          <MenuItem value={3}>3 boxes</MenuItem>
          <MenuItem value={1}>1 box</MenuItem>
        </TextField>
        <TextField
          select
          label="Made of"
          value={rules.method}
          onChange={({ target }) => onChange({ ...rules, method: target.value as ColumnRules["method"] })}
        >
          <MenuItem value="highLow">highs and lows</MenuItem>
          <MenuItem value="close">closes</MenuItem>
        </TextField>
      </Box>
      {problem && (
        <Typography variant="body2" role="alert" sx={{ mt: 1, fontWeight: 600 }}>
          {"\u00d7"} {problem}
        </Typography>
      )}
      {chart && (
        <Typography variant="caption" component="p" color="text.secondary" sx={{ mt: 0.75 }}>
          {countText(chart.columns.length, "column")} of boxes of {boxText(chart, size === "percent", market)}, from the
          bars that are loaded: since {when(series.time[chart.columns[0]?.start ?? 0])}.
        </Typography>
      )}
      {chart && <Lean targets={targets} />}
      {chart &&
        targets.map((one) => (
          <TargetLine
            key={`${one.target.kind} ${one.target.knownAt} ${one.target.from} ${String(one.target.isUp)}`}
            {...{ one, chart, close, market, when, series }}
            also={others.filter((other) =>
              agrees(other.chart, { isUp: one.target.isUp, price: chart.priceOf(one.target.target) }),
            )}
            onTake={(target) => {
              const mark = asMark(target, chart, rules, series, market, rung);
              if (mark) onTake(mark);
            }}
          />
        ))}
    </Box>
  );
}

/** Both ways in force is neutral (common practice, no source); said before the list. */
function Lean({ targets }: { targets: readonly LeadingTarget[] }) {
  const inForce = targets.filter(({ target }) => target.state === "in force");
  const ways = new Set(inForce.map(({ target }) => target.isUp));
  const text =
    inForce.length === 0
      ? "No count is in force."
      : ways.size === 2
        ? "Counts both ways are in force: neutral."
        : `Counts in force point ${ways.has(true) ? "up" : "down"}.`;
  return (
    <Typography variant="body2" sx={{ mt: 0.75 }}>
      {text}
    </Typography>
  );
}

interface LineProps {
  one: LeadingTarget;
  chart: PointAndFigure;
  close: number;
  market: MarketFacts;
  series: Series;
  when(time: number): string;
  also: readonly { name: string }[];
  onTake(target: ColumnTarget): void;
}

function TargetLine({ one: { target, nested }, chart, close, market, series, when, also, onTake }: LineProps) {
  const [open, setOpen] = useState(false);
  const line = (of: ColumnTarget) => {
    const price = chart.priceOf(of.target);
    const way = of.isUp ? "up" : "down";
    const counted = of.kind === "vertical" ? countText(of.count, "box", "boxes") : countText(of.count, "column");
    return { price, title: `${way} to ${priceText(price, market)}`, counted };
  };
  const { price, title, counted } = line(target);
  const away = close === 0 ? "" : `${percentText(price / close - 1, 1)}, `;
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", mt: 0.75, pt: 0.5 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", gap: 1 }}>
        <Typography variant="body2" sx={{ fontWeight: 600 }}>
          {target.kind === "vertical" ? "Vertical" : "Horizontal"} {title}
        </Typography>
        <Button variant="text" sx={{ px: 0.75, py: 0, minWidth: 0, minHeight: 24 }} onClick={() => onTake(target)}>
          Take
        </Button>
      </Box>
      <Typography variant="caption" component="p">
        {away}
        {target.state}, {counted}; first stated {when(series.time[target.knownAt])}; negated beyond{" "}
        {priceText(chart.priceOf(target.from), market)}.
        {also.length > 0 && ` Boxes of ${also.map(({ name }) => name).join(" and ")} agree.`}
      </Typography>
      {nested.length > 0 && (
        <Button variant="text" aria-expanded={open} sx={{ px: 0, py: 0, minHeight: 24 }} onClick={() => setOpen(!open)}>
          {countText(nested.length, "narrower count")} of the same base
        </Button>
      )}
      {open &&
        nested.map((narrow) => (
          <Typography key={narrow.count} variant="caption" component="p">
            {line(narrow).title}, {line(narrow).counted}, {narrow.state}
          </Typography>
        ))}
    </Box>
  );
}

/** The same bars with boxes half and twice as large: what counts for one size alone hangs on that size. */
function otherSizes(
  rules: ColumnRules,
  series: Series,
  market: MarketFacts,
): { name: string; chart: PointAndFigure }[] {
  return [0.5, 2].flatMap((by) => {
    try {
      const scaled = scaledColumns(rules, by);
      const chart = pointAndFigureOf(series, scaled, market.tick);
      return [{ name: boxText(chart, sizeOf(rules) === "percent", market), chart }];
    } catch {
      // A box below one tick, or a percent of nothing: that size has nothing to say.
      return [];
    }
  });
}

function boxProblem(size: Size, value: number, { tick }: MarketFacts): string | undefined {
  if (!(value > 0)) return "A box is above 0.";
  if (size === "percent" && value > 50) return "At most 50 %.";
  if (size === "atr" && value > 1_000) return "At most 1,000.";
  return size === "fixed" && value < tick ? `At least one tick, ${tick}.` : undefined;
}

/** About a percent of the price, on whole ticks. */
const usualBox = (close: number, { tick }: MarketFacts): number =>
  Number((Math.max(1, Math.round((Math.abs(close) * 0.01) / tick)) * tick).toPrecision(12));

function asMark(
  target: ColumnTarget,
  chart: PointAndFigure,
  rules: ColumnRules,
  series: Series,
  market: MarketFacts,
  rung: string,
): Mark | undefined {
  const isPercent = sizeOf(rules) === "percent";
  const move = moveOfTarget(chart, target, series, isPercent);
  const props = move && measuredMove.readProps({ ratios: [move.ratio], scale: move.scale });
  if (!move || !props) return undefined;
  const counted = target.kind === "vertical" ? `${target.count} boxes` : `${target.count} columns`;
  return {
    ...{ id: crypto.randomUUID(), kind: "measuredMove", market: market.id, rung, anchors: move.anchors },
    props: { ...props },
    note:
      `Counted from columns: ${counted}, boxes of ${boxText(chart, isPercent, market)}, ` +
      `${rules.reversal} turn one.`,
    ...{ author: "", version: 0 },
  };
}

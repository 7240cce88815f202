import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { anchorsOf, fillInside, labelledOn } from "#core/marks/countTree";
import { atFinerBars } from "#core/marks/pivotBar";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { firstAtOrAfter, slice, type Series } from "#core/series/series";
import type { Calendar } from "#core/time/calendar";
import type { Timeframe } from "#core/time/timeframe";
import type { Degree } from "#core/waves/degrees";
import { PART_NAMES, type ScoreParts } from "#core/waves/explain";
import { PATTERNS } from "#core/waves/patterns";
import type { CountProposal } from "#core/waves/proposals";
import { nestedStatements } from "#core/waves/statements";
import { inProgress, type LengthScale } from "#core/waves/wave";
import type { View } from "../../../../chart/scale.ts";
import { CountPanel } from "./CountPanel.tsx";
import { SpanCounts } from "./SpanCounts.tsx";
import { freshCount, type Counted, type MachineAt } from "./useCounts.ts";
import { insideOf, useMachineCounts, usualOptions } from "./useMachineCounts.ts";

interface Props {
  /** Where it counts: the part in view, or the inside of a wave of a count. */
  at: NonNullable<MachineAt>;
  mark: Counted | undefined;
  /** Where the one mark that is chosen begins: a span of its own, where the analyst wants it. */
  pinned?: number | undefined;
  series: Series | undefined;
  /** The bars in view. */
  seen: View | undefined;
  market: MarketFacts;
  rung: string;
  timeframe: Timeframe;
  calendar: Calendar;
  degree: Degree;
  log: boolean;
  /** Whether the market has a preferred count already. */
  preferred: boolean;
  /** Draws a count on the chart while it is looked at. */
  onShow(mark: Mark | undefined): void;
  onTake(mark: Mark): void;
  onClose(): void;
}

/**
 * Counts by machine: of the view in spans; of a count from its first pivot on, or of the inside of a wave, among what
 * is labelled there.
 */
export function MachineCounts(props: Props) {
  const { mark, pinned, series, seen, market, rung, preferred, onShow, onTake, onClose } = props;
  if (mark) return <CountedOn {...props} />;
  const part = series && partInView(series, seen, undefined);
  const since = series && pinned !== undefined ? partInView(series, seen, pinned) : undefined;
  return <SpanCounts {...{ part, since, market, rung, preferred, onShow, onTake, onClose }} />;
}

function CountedOn({
  at,
  mark,
  series,
  seen,
  market,
  rung,
  timeframe,
  calendar,
  degree,
  log,
  preferred,
  onTake,
  onClose,
}: Props) {
  const { work, run, cancel } = useMachineCounts();
  const [swings, setSwings] = useState(60);
  const [degrees, setDegrees] = useState(2);
  const [scale, setScale] = useState<LengthScale>(mark?.props.scale ?? (log ? "log" : "arithmetic"));
  const [pinned, setPinned] = useState(false);
  const inside = mark && at.at && at.at.length > 0 ? at.at : undefined;
  const begin = () => {
    if (!series) return;
    if (mark && inside) {
      const part = insideOf(mark, inside, series);
      if (part) run(part.series, usualOptions({ swings, degrees, ...part.options }));
      return;
    }
    const part = partInView(series, seen, mark && Math.min(...mark.anchors.map(({ time }) => time)));
    const pins =
      pinned && mark
        ? mark.props.root.pivots.slice(1).map((pivot, i) => ({
            time: mark.anchors[pivot].time,
            label: PATTERNS[mark.props.root.pattern].labels[i],
            below: 0,
          }))
        : [];
    run(part, usualOptions({ swings, degrees, scale, pins }));
  };
  const take = ({ root }: CountProposal) => {
    if (mark && inside)
      return onTake(
        labelledOn(
          fillInside(series ? atFinerBars(mark, series, timeframe, calendar) : mark, inside, root),
          rung,
        ) as unknown as Mark,
      );
    const { anchors, root: node } = anchorsOf(root);
    onTake(
      freshCount(market.id, rung, anchors, {
        degree: mark?.props.degree ?? degree,
        scale,
        role: preferred ? "alternate" : "preferred",
        root: node,
        shown: degrees,
      }),
    );
  };
  const best = work.proposals.at(0);
  const number = (label: string, value: number, options: readonly number[], set: (value: number) => void) => (
    <TextField select label={label} value={value} onChange={(event) => set(Number(event.target.value))}>
      {options.map((one) => (
        <MenuItem key={one} value={one}>
          {one}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <CountPanel
      title={inside ? "The inside, by machine" : "Counted by machine"}
      state={work.state}
      found={work.proposals.length}
      took={work.took}
      done={work.done}
      none="more swings, or another start"
      ready={series !== undefined}
      onCount={begin}
      onCancel={cancel}
      onClose={onClose}
      fields={
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1, mt: 0.75 }}>
          {number("Swings", swings, [24, 60, 120, 200], setSwings)}
          {number("Degrees", degrees, [1, 2, 3, 4], setDegrees)}
          <TextField
            select
            label="Lengths"
            disabled={inside !== undefined}
            value={scale}
            onChange={(event) => setScale(event.target.value as LengthScale)}
          >
            <MenuItem value="arithmetic">plain</MenuItem>
            <MenuItem value="log">log</MenuItem>
          </TextField>
        </Box>
      }
      choice={
        mark && !inside ? (
          <Button variant="text" aria-pressed={pinned} sx={{ px: 0.5 }} onClick={() => setPinned(!pinned)}>
            {pinned ? "My pivots stay" : "Pivots are free"}
          </Button>
        ) : undefined
      }
    >
      <Box component="ol" aria-label="Counts" sx={{ listStyle: "none", p: 0, m: 0, mt: 0.5 }}>
        {work.proposals.map((proposal, i) => (
          <ProposedCount
            key={i}
            proposal={proposal}
            best={best}
            scale={scale}
            market={market}
            onTake={() => take(proposal)}
          />
        ))}
      </Box>
    </CountPanel>
  );
}

function ProposedCount({
  proposal,
  best,
  scale,
  market,
  onTake,
}: {
  proposal: CountProposal;
  best: CountProposal | undefined;
  scale: LengthScale;
  market: MarketFacts;
  onTake(): void;
}) {
  const { root } = proposal;
  const { title, labels } = PATTERNS[root.pattern];
  const open = inProgress(root);
  const kill = nestedStatements(root, { scale, overlap: 0 }).find(({ at, asserted }) => at.length === 0 && asserted);
  return (
    <Box component="li" sx={{ py: 0.5, borderBottom: 1, borderColor: "divider", fontSize: "0.85rem" }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}>
        <Box component="span" sx={({ vars }) => ({ color: vars?.palette.compass.plum, fontWeight: 600 })}>
          {title}, {open === undefined ? "complete" : `wave ${labels[open]} in progress`}
        </Box>
        <Button variant="text" sx={{ px: 0.5, py: 0, minWidth: 0, minHeight: 24 }} onClick={onTake}>
          Take
        </Button>
      </Box>
      <Box sx={{ color: "text.secondary", fontSize: "0.78rem" }}>
        {root.pivots.map(({ price }) => priceText(price, market)).join(" \u2013 ")}
        {kill ? `; \u00d7 ${kill.killSide} ${priceText(kill.killPrice, market)}` : ""}
      </Box>
      <Box sx={{ color: "text.secondary", fontSize: "0.78rem" }}>
        {best && best !== proposal
          ? differenceText(best.parts, proposal.parts)
          : "stands first by what the book asks of it; how likely it is was not measured here"}
      </Box>
    </Box>
  );
}

/** What speaks for it and against it, beside the first. */
function differenceText(first: ScoreParts, own: ScoreParts): string {
  const by = (Object.keys(PART_NAMES) as (keyof ScoreParts)[])
    .map((part) => ({ name: PART_NAMES[part], more: own[part] - first[part] }))
    .filter(({ more }) => Math.abs(more) >= 0.5)
    .sort((a, b) => Math.abs(b.more) - Math.abs(a.more));
  const named = (isFor: boolean) =>
    by
      .filter(({ more }) => more > 0 === isFor)
      .map(({ name }) => name)
      .join(", ");
  const parts = [
    ...(named(true) ? [`for it beside the first: ${named(true)}`] : []),
    ...(named(false) ? [`against it: ${named(false)}`] : []),
  ];
  return parts.length > 0 ? parts.join("; ") : "as good as the first";
}

/** The bars in view; from an instant on where one is given. */
function partInView(series: Series, seen: View | undefined, since: number | undefined): Series {
  const first = since === undefined ? Math.max(0, Math.floor(seen?.from ?? 0)) : firstAtOrAfter(series, since);
  const to = Math.min(series.length, Math.ceil((seen?.to ?? series.length) + 1));
  return slice(series, Math.min(first, to), to);
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Anchor, Life, Mark, MarketFacts } from "#core/marks/kind";
import { kindOf } from "#core/marks/registry";
import { useState, type ComponentProps, type ReactNode } from "react";
import { countText, percentText, priceText, rungText } from "#core/marks/wording";
import { legOf, retracement } from "#core/projections/retracement";
import { dateText, momentText } from "../../../parts/times.ts";
import type { Calendar } from "#core/time/calendar";
import { WordsField } from "../../../parts/WordsField.tsx";
import { AnchorFields } from "./AnchorFields.tsx";
import type { Found } from "#core/finding/found";
import { CopiedLine } from "./CopiedLine.tsx";
import { FoundLine } from "../machine/FoundLine.tsx";
import { AlertChoices } from "../../alerts/AlertChoices.tsx";
import type { Series } from "#core/series/series";
import { CountSection } from "../counting/CountSection.tsx";
import { asCount, type Counts } from "../counting/useCounts.ts";
import { inHand } from "./kinds.ts";
import type { Lives } from "./livesBoard.ts";
import { useNewestFirst } from "./useNewestFirst.ts";
import type { MeasuredLine } from "#core/marks/measuring/lines";
import { MeasuredLines } from "./MeasuredLines.tsx";
import { MeasureFields } from "./MeasureFields.tsx";
import type { PatternProps, PatternState } from "#core/marks/pattern";
import { PatternFacts } from "./PatternFacts.tsx";
import { isFitted } from "./workspaceMarks.ts";
import { ZoneSide } from "./ZoneSide.tsx";
import { sayEvent } from "#core/marks/sayEvent";

interface Props {
  mark: Mark;
  life: ReturnType<Lives["get"]>;
  market: MarketFacts;
  calendar: Calendar;
  /** Bars of a day and longer are named by dates, others by the clock. */
  intraday: boolean;
  asOf: number | undefined;
  /** ATR(14) of the chart's rung; 0 while it is not known. */
  atr: number;
  /** What the machine found where this mark was drawn by hand. */
  behind: Found | undefined;
  /** The session an instant falls into, where a market has several. */
  sessionAt: ((time: number) => string) | undefined;
  onChange(mark: Mark): void;
  onRemove(): void;
  onCopy(): void;
  /** Bars of the chart, and what is done with counts. */
  series: Series | undefined;
  counts: Counts;
  others: ComponentProps<typeof CountSection>["others"];
  onSelect(id: string): void;
}

const NO_LINES: readonly MeasuredLine[] = [];
const NO_PROBLEMS: readonly string[] = [];

/** What the selected mark is, exactly: its prices to type, what it computes, its history. */
export function MarkDetails({
  mark,
  life,
  market,
  calendar,
  intraday,
  asOf,
  atr,
  behind,
  sessionAt,
  onChange,
  onRemove,
  onCopy,
  series,
  counts,
  others,
  onSelect,
}: Props) {
  const kind = kindOf(mark);
  const { zone } = calendar.spec;
  const count = asCount(mark);
  const setProps = (change: Record<string, unknown>) => onChange({ ...mark, props: { ...mark.props, ...change } });
  const setAnchor = (i: number, change: Partial<Anchor>) => {
    const anchors = mark.anchors.map((anchor, n) => (n === i ? { ...anchor, ...change } : anchor));
    const own = mark.kind === "zone" ? { own: true } : {};
    onChange({ ...mark, anchors, props: { ...mark.props, ...own } });
  };
  const problems = useNewestFirst(life?.problems ?? NO_PROBLEMS);
  const [alerting, setAlerting] = useState(false);
  const place = life ? placeOf(mark, life.life) : undefined;
  const locked = mark.locked === true;
  const events = life?.life.events ?? [];
  const lines = (!count && life && kind.lines?.(mark, life.life)) || NO_LINES;
  const bands = life && lines.length > 0 ? kind.prices(mark, life.life) : [];
  return (
    <Box component="section" aria-label="Selected mark" sx={{ borderTop: 1, borderColor: "divider", pt: 1.5, mt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
        <Typography variant="h3">
          {kind.title}, {rungText(mark.rung).toLowerCase()}
        </Typography>
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", ml: -0.75, "& .MuiButton-root": { px: 0.75, py: 0, minWidth: 0 } }}>
        <Button variant="text" aria-pressed={locked} onClick={() => onChange({ ...mark, locked: !locked })} title="K">
          {locked ? "Unlock" : "Lock"}
        </Button>
        <Button
          variant="text"
          aria-pressed={mark.hidden === true}
          onClick={() => onChange({ ...mark, hidden: !mark.hidden })}
          title="V"
        >
          {mark.hidden ? "Show" : "Hide"}
        </Button>
        <Button variant="text" onClick={onCopy} title="C">
          Copy
        </Button>
        {place && asOf === undefined && (
          <Button variant="text" aria-expanded={alerting} onClick={() => setAlerting(!alerting)}>
            Alert
          </Button>
        )}
        <Button variant="text" disabled={locked} onClick={onRemove} title="Delete">
          Remove
        </Button>
      </Box>
      {alerting && place && (
        <AlertChoices
          market={market}
          rung={mark.rung}
          areas={[]}
          mark={place}
          atr={atr}
          onLeave={() => setAlerting(false)}
        />
      )}
      {(mark.found ?? behind) && <FoundLine mark={mark} behind={behind} market={market} onChange={onChange} />}
      {mark.copied && (
        <CopiedLine mark={mark} copied={mark.copied} market={market} zone={zone} asOf={asOf} onChange={onChange} />
      )}
      {problems.map((sentence) => (
        <Typography key={sentence} variant="body2" role="alert" sx={{ fontWeight: 600 }}>
          {"\u00d7"} {sentence}
        </Typography>
      ))}
      {count && (
        <CountSection
          mark={count}
          life={life?.life}
          market={market}
          series={series}
          atr={atr}
          zone={zone}
          intraday={intraday}
          counts={counts}
          others={others}
          onSelect={onSelect}
        />
      )}
      {mark.kind === "zone" && (
        <ZoneSide
          side={mark.props.side as "demand" | "supply"}
          disabled={locked}
          onSay={(side) => {
            const said = { ...mark, props: { ...mark.props, side } };
            // Its edges are read anew for the other side, unless they were set by hand.
            onChange(series && kind.complete ? kind.complete(said, { series, market, calendar }) : said);
          }}
        />
      )}
      <Anchors folded={count !== undefined}>
        {mark.anchors.map(({ time, price }, i) => (
          <AnchorFields
            key={i}
            name={inHand(mark.kind)?.anchorName(i) ?? "Price"}
            time={time}
            price={price}
            market={market}
            zone={zone}
            intraday={intraday}
            locked={locked}
            onCommit={(change) => setAnchor(i, change)}
          />
        ))}
        {(mark.kind === "level" || mark.kind === "fittedLevel" || mark.kind === "path") && (
          <WordsField
            label="Name"
            value={String(mark.props.label ?? "")}
            longest={60}
            disabled={locked}
            onCommit={(label) => setProps({ label })}
          />
        )}
        {mark.kind === "note" && (
          <WordsField
            label="Words"
            value={String(mark.props.text)}
            longest={200}
            disabled={locked}
            first={mark.props.text === ""}
            onCommit={(text) => setProps({ text })}
          />
        )}
      </Anchors>
      {mark.kind === "retracement" && <RetracementLines mark={mark} market={market} />}
      {lines.length > 0 && (
        <MeasuredLines
          lines={lines}
          close={series?.close.at(-1) ?? 0}
          wrong={bands.find(({ role }) => role === "kill")?.bottom}
          atr={atr}
          market={market}
          when={(time) => (intraday ? momentText(time, zone) : dateText(time))}
        />
      )}
      {mark.kind === "pattern" && (
        <PatternFacts
          mark={mark as unknown as Mark<PatternProps>}
          life={life?.life as Life<PatternState> | undefined}
          locked={locked}
          onChange={(next) => onChange(next as unknown as Mark)}
        />
      )}
      {!count && (
        <MeasureFields
          mark={mark}
          locked={locked}
          decimals={market.decimals}
          onChange={(next) =>
            onChange(
              series && kind.complete && isFitted(next) ? kind.complete(next, { series, market, calendar }) : next,
            )
          }
        />
      )}
      <Box sx={{ mt: 1.25 }}>
        <WordsField
          label="Remark"
          value={mark.note}
          longest={2000}
          multiline
          onCommit={(note) => onChange({ ...mark, note })}
        />
      </Box>
      {events.length > 0 && (
        <Box component="details" sx={{ mt: 1 }}>
          <Typography component="summary" variant="body2" sx={{ cursor: "pointer" }}>
            History, {countText(events.length, "event")}
          </Typography>
          {events.slice(-30).map((event, i) => (
            <Typography key={i} variant="caption" component="div">
              {intraday ? momentText(event.time, zone) : dateText(event.time)}
              {sessionAt ? `, ${sessionAt(event.time)}` : ""}: {sayEvent(mark, event)}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Where an alert on a mark waits: at the prices it stands at; none where it stands at many. */
function placeOf(mark: Mark, life: Life): { id: string; name: string; bottom: number; top: number } | undefined {
  if (!ALERTED.includes(mark.kind)) return undefined;
  const bands = kindOf(mark).prices(mark, life);
  if (bands.length === 0) return undefined;
  return {
    id: mark.id,
    name: bands[0].label,
    bottom: Math.min(...bands.map(({ bottom }) => bottom)),
    top: Math.max(...bands.map(({ top }) => top)),
  };
}

const ALERTED = [
  ...["level", "fittedLevel", "zone", "gap", "pool", "trendLine", "channel"],
  ...["swingChannel", "regressionChannel", "anchoredAverage"],
];

function Line({ left, right, dim = false }: { left: string; right: string; dim?: boolean }) {
  return (
    <Box
      sx={{
        display: "flex",
        justifyContent: "space-between",
        gap: 1,
        py: 0.25,
        color: dim ? "text.secondary" : undefined,
      }}
    >
      <Typography variant="body2">{left}</Typography>
      <Typography variant="body2" sx={{ whiteSpace: "nowrap" }}>
        {right}
      </Typography>
    </Box>
  );
}

/** Exact times and prices; of a count, whose pivots are many, folded away. */
function Anchors({ folded, children }: { folded: boolean; children: ReactNode }) {
  const grid = (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", alignItems: "end", gap: 1.25, mt: 1 }}>{children}</Box>
  );
  if (!folded) return grid;
  return (
    <Box component="details" sx={{ borderTop: 1, borderColor: "divider", mt: 0.75, pt: 0.5 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer", fontWeight: 600 }}>
        Pivots, exactly
      </Typography>
      {grid}
    </Box>
  );
}

function RetracementLines({ mark, market }: { mark: Mark; market: MarketFacts }) {
  const { from, to } = legOf(mark.anchors[0], mark.anchors[1]);
  return (
    <Box sx={{ mt: 1 }}>
      {retracement(from, to, mark.props.ratios as number[]).map(({ ratio, price }) => (
        <Line key={ratio} left={percentText(ratio)} right={priceText(price, market)} />
      ))}
    </Box>
  );
}

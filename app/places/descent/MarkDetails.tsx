import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Anchor, Life, Mark, MarketFacts } from "#core/marks/kind";
import { DEGREES } from "#core/marks/impulse";
import { kindOf } from "#core/marks/registry";
import { useState } from "react";
import { percentText, priceText, rungText } from "#core/marks/wording";
import { legOf, retracement } from "#core/projections/retracement";
import { readImpulse, type LengthScale } from "#core/waves/impulse";
import { dateText, momentText } from "../../parts/times.ts";
import { WordsField } from "../../parts/WordsField.tsx";
import { AnchorFields } from "./AnchorFields.tsx";
import type { Found } from "#core/finding/found";
import { CopiedLine } from "./CopiedLine.tsx";
import { FoundLine } from "./FoundLine.tsx";
import { AlertChoices } from "../alerts/AlertChoices.tsx";
import { inHand } from "./kinds.ts";
import type { Lives } from "./livesBoard.ts";

interface Props {
  mark: Mark;
  life: ReturnType<Lives["get"]>;
  market: MarketFacts;
  /** Zone of the market's clock. */
  zone: string;
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
}

/** What the selected mark is, exactly: its prices to type, what it computes, its history. */
export function MarkDetails({ mark, life, market, zone, intraday, asOf, atr, behind, sessionAt, onChange, onRemove, onCopy }: Props) {
  const kind = kindOf(mark);
  const setProps = (change: Record<string, unknown>) => onChange({ ...mark, props: { ...mark.props, ...change } });
  const setAnchor = (i: number, change: Partial<Anchor>) => {
    const anchors = mark.anchors.map((anchor, n) => (n === i ? { ...anchor, ...change } : anchor));
    const own = mark.kind === "zone" ? { own: true } : {};
    onChange({ ...mark, anchors, props: { ...mark.props, ...own } });
  };
  const [alerting, setAlerting] = useState(false);
  const place = life ? placeOf(mark, life.life) : undefined;
  const locked = mark.locked === true;
  const events = life?.life.events ?? [];
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
        <Button variant="text" aria-pressed={mark.hidden === true} onClick={() => onChange({ ...mark, hidden: !mark.hidden })} title="V">
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
      {alerting && place && <AlertChoices market={market} rung={mark.rung} areas={[]} mark={place} atr={atr} onLeave={() => setAlerting(false)} />}
      {(mark.found ?? behind) && <FoundLine mark={mark} behind={behind} market={market} onChange={onChange} />}
      {mark.copied && <CopiedLine mark={mark} copied={mark.copied} market={market} zone={zone} asOf={asOf} onChange={onChange} />}
      {life?.problems.map((sentence) => (
        <Typography key={sentence} variant="body2" role="alert" sx={{ fontWeight: 600 }}>
          {"\u00d7"} {sentence}
        </Typography>
      ))}
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", alignItems: "end", gap: 1.25, mt: 1 }}>
        {mark.anchors.map(({ time, price }, i) => (
          <AnchorFields key={i} name={inHand(mark.kind)?.anchorName(i) ?? "Price"} time={time} price={price} market={market} zone={zone} intraday={intraday} locked={locked} onCommit={(change) => setAnchor(i, change)} />
        ))}
        {(mark.kind === "level" || mark.kind === "fittedLevel" || mark.kind === "path") && (
          <WordsField label="Name" value={String(mark.props.label ?? "")} longest={60} disabled={locked} onCommit={(label) => setProps({ label })} />
        )}
        {mark.kind === "note" && (
          <WordsField label="Words" value={String(mark.props.text)} longest={200} disabled={locked} first={mark.props.text === ""} onCommit={(text) => setProps({ text })} />
        )}
        {mark.kind === "impulse" && (
          <>
            <TextField select label="Degree" disabled={locked} value={mark.props.degree} onChange={(event) => setProps({ degree: event.target.value })}>
              {DEGREES.map((degree) => (
                <MenuItem key={degree} value={degree}>
                  {degree}
                </MenuItem>
              ))}
            </TextField>
            <TextField select label="Lengths" disabled={locked} value={mark.props.scale} onChange={(event) => setProps({ scale: event.target.value })}>
              <MenuItem value="arithmetic">arithmetic</MenuItem>
              <MenuItem value="log">logarithmic</MenuItem>
            </TextField>
          </>
        )}
      </Box>
      {mark.kind === "impulse" && <ImpulseLines mark={mark} market={market} />}
      {mark.kind === "retracement" && <RetracementLines mark={mark} market={market} />}
      <Box sx={{ mt: 1.25 }}>
        <WordsField label="Remark" value={mark.note} longest={2000} multiline onCommit={(note) => onChange({ ...mark, note })} />
      </Box>
      {events.length > 0 && (
        <Box component="details" sx={{ mt: 1 }}>
          <Typography component="summary" variant="body2" sx={{ cursor: "pointer" }}>
            History, {events.length} events
          </Typography>
          {events.slice(-30).map(({ time, sentence }, i) => (
            <Typography key={i} variant="caption" component="div">
              {intraday ? momentText(time, zone) : dateText(time)}
              {sessionAt ? `, ${sessionAt(time)}` : ""}: {sentence}
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
  return { id: mark.id, name: bands[0].label, bottom: Math.min(...bands.map(({ bottom }) => bottom)), top: Math.max(...bands.map(({ top }) => top)) };
}

const ALERTED = ["level", "fittedLevel", "zone", "gap", "pool", "trendLine", "channel"];

function Line({ left, right, dim = false }: { left: string; right: string; dim?: boolean }) {
  return (
    <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, py: 0.25, color: dim ? "text.secondary" : undefined }}>
      <Typography variant="body2">{left}</Typography>
      <Typography variant="body2" sx={{ whiteSpace: "nowrap" }}>
        {right}
      </Typography>
    </Box>
  );
}

function ImpulseLines({ mark, market }: { mark: Mark; market: MarketFacts }) {
  const { rules, statements, projections } = readImpulse(mark.anchors, mark.props.scale as LengthScale);
  return (
    <Box sx={{ mt: 1 }}>
      {rules.map(({ rule, holds }) => (
        <Line key={rule} left={rule} right={holds ? "holds" : "\u00d7 broken"} dim={holds} />
      ))}
      {statements.map(({ statement, killPrice, killSide }) => (
        <Line key={statement} left={statement} right={`\u00d7 ${killSide} ${priceText(killPrice, market)}`} />
      ))}
      {projections.map(({ wave, ratio, price, basis }) => (
        <Line key={`${ratio} ${basis}`} left={`${wave}: ${ratio} ${basis}`} right={priceText(price, market)} dim />
      ))}
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

import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { driftOf, relationOf, type CopyOf } from "#core/marks/equivalent";
import type { Mark, MarketFacts } from "#core/marks/kind";
import { pipText } from "../../../../chart/measure.ts";
import { toTick } from "#core/series/tick";
import { momentText } from "../../../parts/times.ts";
import { useRelation } from "./relations.ts";

interface Props {
  mark: Mark;
  copied: CopyOf;
  market: MarketFacts;
  zone: string;
  asOf: number | undefined;
  onChange(mark: Mark): void;
}

/**
 * Where a mark was copied from, how far its price would lie from here were it carried over now, and the way to do so.
 */
export function CopiedLine({ mark, copied, market, zone, asOf, onChange }: Props) {
  const related = useRelation(market.id, copied.market, copied.at, asOf);
  const now = related && "relation" in related ? related.relation.now : undefined;
  const drift = (price: number) => (now ? driftOf(price, copied, now.here, now.there) : 0);
  const [{ price }] = mark.anchors;
  const carry = () => {
    if (!now) return;
    const anchors = mark.anchors.map((anchor) => ({
      ...anchor,
      price: toTick(anchor.price + drift(anchor.price), market.tick, market.decimals),
    }));
    onChange({
      ...mark,
      anchors,
      copied: { ...copied, at: now.at, value: relationOf(now.here, now.there, copied.by) },
    });
  };
  const pips = drift(price) / market.pip;
  return (
    <Typography variant="body2" color="text.secondary" component="div">
      Copied from {copied.market} by {copied.by} as of {momentText(copied.at, zone)}.{" "}
      {now &&
        (Math.abs(pips) < 0.05
          ? "No drift since."
          : `Carried over now it would lie ${pipText(Math.abs(pips))} ${market.pipName} ` +
            `${pips > 0 ? "higher" : "lower"}.`)}
      {related && "sentence" in related && related.sentence}
      {now && Math.abs(pips) >= 0.05 && !mark.locked && (
        <Button variant="text" onClick={carry} sx={{ py: 0 }}>
          Carry over now
        </Button>
      )}
    </Typography>
  );
}

import { advanceBand, FRESH, type Band, type BandState } from "#core/levels/band";
import { birthOf, type Mark, type MarkKind } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";
import { firstAtOrAfter, lastAtOrBefore } from "#core/series/series";
import { atrBefore } from "#core/zones/edges";
import { bandEvent } from "#core/marks/markEvent";

export interface LevelProps {
  label: string;
}

/** A level's band and state: which side it is met from is settled by the bar it was placed on. */
export interface LevelState {
  band: Band;
  life: BandState;
}

/** A touch of a level lasts until price is this many ATR(14) away, ATR frozen at the level's birth. */
export const LEAVE_ATR = 0.5;

/** A single price that speaks as support or resistance. */
export const level: MarkKind<LevelProps, LevelState> = {
  kind: "level",
  title: "Level",
  anchors: { least: 1, most: 1 },
  readProps: (raw) => {
    const label = raw.label ?? "";
    return typeof label === "string" && label.length <= 60 ? { label } : undefined;
  },
  check: () => [],
  start(mark, { series }) {
    const price = mark.anchors[0].price;
    const birth = birthOf(mark);
    const at = Math.max(0, lastAtOrBefore(series, birth));
    const close = series.length > 0 ? series.close[at] : price;
    const leave = LEAVE_ATR * (series.length > 1 ? atrBefore(series, firstAtOrAfter(series, birth)) : 0);
    const band: Band = { side: close >= price ? "demand" : "supply", bottom: price, top: price, leave };
    return { band, life: close === price ? FRESH : { ...FRESH, status: "fresh", away: true } };
  },
  advance(_mark, state, bar, emit) {
    const life = advanceBand(state.band, state.life, bar, (event) => {
      if (event.event !== "left" && event.event !== "spent") emit(bandEvent(event, state.band));
    });
    return life === state.life ? state : { ...state, life };
  },
  status: ({ life }) => ({ code: life.status === "pending" ? "fresh" : life.status, dead: life.status === "broken" }),
  prices(mark, { state }) {
    const price = mark.anchors[0].price;
    const held = (state.band.side === "demand") !== (state.life.status === "flipped");
    return [{ bottom: price, top: price, role: held ? "support" : "resistance", label: mark.props.label || "level" }];
  },
  say(mark, life, market) {
    const name = mark.props.label || (this.prices(mark, life)[0].role === "support" ? "Support" : "Resistance");
    return `${name} ${priceText(mark.anchors[0].price, market)}, ${stateText(life.state.life)}.`;
  },
};

/** A band's state as the end of a sentence. */
export function stateText({ status, touches, deepest }: BandState, depth = false): string {
  if (touches === 0 || status === "pending") return status === "broken" ? "broken" : status;
  const met = `${countText(touches, "touch", "touches")}${depth ? `, ${Math.round(deepest * 100)} % deep` : ""}`;
  return status === "touched" ? met : `${status} after ${met}`;
}

export type LevelMark = Mark<LevelProps>;

import type { WaveEnd } from "#core/candles/answered";
import { labelAt, readingOf } from "#core/marks/count";
import type { CountProps } from "#core/marks/countProps";
import type { Mark } from "#core/marks/kind";
import { PATTERNS } from "#core/waves/patterns";
import { allWaves } from "#core/waves/wave";

/** Where waves of a count ended that are shown, each turn once, as the largest wave that ended there is labelled. */
export function waveEndsOf(mark: Mark<CountProps>): WaveEnd[] {
  const ends = new Map<number, WaveEnd>();
  const shown = allWaves(readingOf(mark).wave).filter(({ at }) => at.length < mark.props.shown);
  for (const { wave, at } of shown.sort((a, b) => a.at.length - b.at.length))
    wave.pivots.slice(1).forEach(({ time, price }, i) => {
      const label = labelAt(mark.props, PATTERNS[wave.pattern].labels[i], at.length);
      if (!ends.has(time)) ends.set(time, { time, price, label });
    });
  return [...ends.values()];
}

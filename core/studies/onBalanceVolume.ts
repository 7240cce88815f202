import type { Study } from "#core/studies/study";

/** Volume summed with the sign of the close against the close before; from the first bar that has any. */
export const onBalanceVolumeStudy: Study = {
  name: "onBalanceVolume",
  title: "On-balance volume",
  short: "OBV",
  says: "volume summed, with the sign of the close against the close before",
  source: "J. E. Granville, 1963; from memory",
  parameters: [],
  lines: [{ name: "value", unit: "volume" }],
  place: "own",
  begin(_params, { tick }) {
    let [sum, has] = [0, false];
    const out = [NaN];
    return ({ close, volume }, i) => {
      has ||= volume[i] > 0;
      if (i > 0) sum += Math.sign(Math.round((close[i] - close[i - 1]) / tick)) * volume[i];
      out[0] = has ? sum : NaN;
      return out;
    };
  },
};

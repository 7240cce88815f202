import { OF, whole, type Bars, type Study } from "#core/studies/study";
import { Window } from "#core/studies/steps";

/**
 * Money flow index, 0 to 100: of the last `period` bars' typical price times volume, the share on which that price rose
 * (G. Quong and A. Soudack, 1989; from memory). Whether it rose is asked of H + L + C in whole ticks, whose third it
 * is. First defined at index `period`; 50 where nothing flowed either way.
 */
export const moneyFlowStudy: Study = {
  name: "moneyFlow",
  title: "Money flow index",
  short: "MFI",
  says: "money flow index, 0 to 100",
  source: "G. Quong and A. Soudack, 1989; from memory",
  parameters: [whole("period", 14), OF],
  lines: [{ name: "value", unit: "hundred" }],
  place: [0, 100],
  levels: [20, 80],
  begin({ period }, { tick }) {
    const flows = new Window(period as number);
    const sumAt = ({ high, low, close }: Bars, i: number) => high[i] + low[i] + close[i];
    const out = [NaN];
    return (bars, i) => {
      if (i === 0) return out;
      const sum = sumAt(bars, i);
      flows.push(Math.sign(Math.round((sum - sumAt(bars, i - 1)) / tick)) * (sum / 3) * bars.volume[i]);
      if (!flows.isFull) return out;
      let [gained, lost] = [0, 0];
      for (const flow of flows)
        if (flow > 0) gained += flow;
        else lost -= flow;
      out[0] = gained + lost === 0 ? 50 : (100 * gained) / (gained + lost);
      return out;
    };
  },
};

import TextField from "@mui/material/TextField";
import { useState } from "react";
import { flushSync } from "react-dom";
import type { Anchor, MarketFacts } from "#core/marks/kind";
import { focusChart } from "../../../parts/focusChart.ts";
import { NumberField } from "../../../parts/NumberField.tsx";
import { fromInput, toInput } from "../../../parts/inputTimes.ts";

interface Props {
  name: string;
  time: number;
  price: number;
  market: MarketFacts;
  zone: string;
  intraday: boolean;
  locked: boolean;
  onCommit(change: Partial<Anchor>): void;
}

/** As far as the desk keeps prices. */
const FARTHEST = 1e12;
const beyond = (price: number) => (Math.abs(price) > FARTHEST ? "No price lies that far." : undefined);

/** One anchor to type: its price, and the bar it stands on. */
export function AnchorFields({ name, time, price, market, zone, intraday, locked, onCommit }: Props) {
  const [draft, setDraft] = useState<string>();
  // From a day up the time of a bar is its date, at midnight UTC.
  const shown = toInput(time, intraday ? zone : "utc").slice(0, intraday ? 16 : 10);
  const read = (text: string) => fromInput(text, intraday ? zone : "utc");
  const wrong = draft !== undefined && !Number.isFinite(read(draft));
  const commit = () => {
    if (draft === undefined || wrong) return;
    setDraft(undefined);
    if (read(draft) !== read(shown)) onCommit({ time: read(draft) });
  };
  return (
    <>
      <NumberField
        label={name}
        value={price}
        decimals={market.decimals}
        disabled={locked}
        problem={beyond}
        onCommit={(next) => onCommit({ price: next })}
        onDone={focusChart}
      />
      <TextField
        type={intraday ? "datetime-local" : "date"}
        value={draft ?? shown}
        disabled={locked}
        error={wrong}
        helperText={wrong ? "This is no time." : undefined}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Escape") flushSync(() => setDraft(undefined));
          if (event.key === "Enter") flushSync(commit);
          if (event.key === "Escape" || (event.key === "Enter" && !wrong)) focusChart();
        }}
        slotProps={{
          htmlInput: {
            "aria-label": `${name}, ${intraday ? `time, ${zone}` : "date"}`,
            max: intraday ? "2999-12-31T23:59" : "2999-12-31",
          },
        }}
      />
    </>
  );
}

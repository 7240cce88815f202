import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { contractOf } from "#core/written/ground";
import type { Written } from "#core/written/written";
import { parseNumber } from "../../../parts/numbers.ts";
import { useWorkspace } from "../session/context.ts";
import { HistoryFound } from "./HistoryFound.tsx";
import { useRuleHistory } from "./useRuleHistory.ts";

/** Of whatever is drawn at random: printed beside the result, so that it can be had again. */
const SEED = 20_260_101;

/** This rule over the market's past: what it would have come to, and against what chance. */
export function RuleHistory({ draft }: { draft: Written }) {
  const { desk, goToView, rung } = useWorkspace();
  const { running, run, stop } = useRuleHistory(desk.market.id);
  const [days, setDays] = useState("14");
  const fixed = pricesThatAreNumbers(draft);
  const start = () => void run({ terms: draft.terms, days: parseNumber(days), seed: SEED });
  return (
    <Box
      component="section"
      aria-label="This rule over the past"
      sx={{ mt: 1.5, borderTop: 1, borderColor: "divider", pt: 1 }}
    >
      <Typography variant="h3">This rule over the past</Typography>
      {fixed > 0 && (
        <Typography variant="body2" color="text.secondary">
          {fixed === 1 ? "One price is" : `${fixed} prices are`} a number: the past is searched for that very price.
          Prices bound to a step make a rule of it.
        </Typography>
      )}
      <Box sx={{ display: "flex", alignItems: "end", gap: 1, mt: 0.5 }}>
        <TextField
          label="It waits, days"
          value={days}
          onChange={({ target: { value } }) => setDays(value)}
          sx={{ maxWidth: 110 }}
        />
        {running.share === undefined ? <Button onClick={start}>Run it</Button> : <Button onClick={stop}>Stop</Button>}
      </Box>
      {running.share !== undefined && (
        <Box sx={{ mt: 1 }}>
          <LinearProgress variant="determinate" value={100 * running.share} aria-label="Progress" />
          <Typography variant="caption">{Math.round(100 * running.share)} % of the past</Typography>
        </Box>
      )}
      {running.trouble && (
        <Typography variant="body2" role="alert" sx={{ fontWeight: 600, mt: 1 }}>
          {running.trouble}
        </Typography>
      )}
      {running.found && (
        <HistoryFound
          found={running.found}
          seed={SEED}
          market={desk.market}
          onWalk={(instant) => goToView(rung, instant)}
        />
      )}
    </Box>
  );
}

/** How many of its prices are numbers, and not rules. */
function pricesThatAreNumbers({ terms }: Written): number {
  let count = 0;
  const look = (value: unknown, name: string): void => {
    if (typeof value === "number" && /^(price|stop|wrong)$/.test(name)) count++;
    if (Array.isArray(value)) {
      if (/^(band|inside|at)$/.test(name)) count++;
      else value.forEach((one) => look(one, ""));
    } else if (typeof value === "object" && value !== null)
      for (const [own, one] of Object.entries(value)) look(one, own);
  };
  look(contractOf(terms), "");
  return count;
}

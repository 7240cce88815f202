import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import type { Scenario } from "#core/scenarios/scenario";
import { scenarioSentence } from "#core/scenarios/say";
import { ScenarioRuler } from "./ScenarioRuler.tsx";

interface Props {
  scenario: Scenario;
  market: MarketFacts;
  /** What became of the count it rests on, when that has died or is gone. */
  lost: string | undefined;
  shown: boolean;
  onShow(): void;
  onEdit(): void;
}

/** A saved scenario in a sentence; shown, it is drawn on the chart and its figures stand below. */
export function ScenarioLine({ scenario, market, lost, shown, onShow, onEdit }: Props) {
  return (
    <Box sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
      <Typography variant="h3" sx={({ vars }) => ({ color: vars?.palette.compass.carmine })}>
        {scenario.title}
      </Typography>
      <Typography variant="body2">{scenarioSentence(scenario, market)}</Typography>
      {lost && (
        <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
          {"\u00d7"} {lost}
        </Typography>
      )}
      {shown && <ScenarioRuler scenario={scenario} market={market} />}
      <Button variant="text" onClick={onShow} aria-pressed={shown}>
        {shown ? "Hide" : "Show on the chart"}
      </Button>
      <Button variant="text" onClick={onEdit}>
        Edit
      </Button>
    </Box>
  );
}

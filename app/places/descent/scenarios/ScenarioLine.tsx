import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { ConditionFault } from "#core/conditions/fields";
import type { MarketFacts } from "#core/marks/kind";
import { figuresOf, type WrittenFigures } from "#core/written/figures";
import { termsOfWritten } from "#core/written/read";
import { sayWritten } from "#core/written/say";
import type { Written } from "#core/written/written";
import type { Standing } from "../../../../server/watch/standing.ts";
import { failureText, postJson } from "../../../parts/post.ts";
import { utcText } from "../../../parts/times.ts";
import { Figures } from "./Figures.tsx";

interface Props {
  scenario: Written;
  market: MarketFacts;
  /** What became of the count it rests on, when that has died or is gone. */
  lost: string | undefined;
  /** The other side, where it is an either-or. */
  pair: string | undefined;
  /** Where it stands, once it is published. */
  standing: Standing | undefined;
  /** Whether an alert can be set just now. */
  alertable: boolean;
  shown: boolean;
  onShow(): void;
  onEdit(): void;
}

/** A saved scenario in a sentence; shown, it is drawn on the chart and its figures stand below. */
export function ScenarioLine({ scenario, market, lost, pair, standing, alertable, shown, onShow, onEdit }: Props) {
  const { title, role, rank, weight } = scenario;
  const [said, setSaid] = useState("");
  const tellMe = async () => {
    const terms = { on: "scenario", scenario: scenario.id, again: true, note: "" };
    const posted = await postJson(`/alerts/${market.id}/set`, { terms });
    setSaid(posted.ok ? "You are told of each step, until it is over." : failureText(posted.failure));
  };
  const figures = shown ? figuresIn(scenario, market) : undefined;
  return (
    <Box sx={{ py: 1, borderBottom: 1, borderColor: "divider" }}>
      <Typography variant="h3" sx={({ vars }) => ({ color: vars?.palette.compass.carmine })}>
        {title}
      </Typography>
      <Typography variant="caption" component="p" color="text.secondary">
        {role}, {weight} %, {rank}
        {pair ? `; either this or "${pair}"` : ""}
      </Typography>
      <Typography variant="body2">{sayWritten(scenario, market, utcText)}</Typography>
      {lost && (
        <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
          {"\u00d7"} {lost}
        </Typography>
      )}
      {standing && (
        <Typography variant="body2" sx={{ fontWeight: 600 }}>
          Edition {standing.edition}: {standing.says}.
        </Typography>
      )}
      {figures && <Figures figures={figures} market={market} />}
      <Button variant="text" onClick={onShow} aria-pressed={shown}>
        {shown ? "Hide" : "Show on the chart"}
      </Button>
      <Button variant="text" onClick={onEdit}>
        Edit
      </Button>
      {alertable && (
        <Button variant="text" onClick={() => void tellMe()}>
          Tell me each step
        </Button>
      )}
      {said && (
        <Typography variant="body2" role="status">
          {said}
        </Typography>
      )}
    </Box>
  );
}

function figuresIn(scenario: Written, market: MarketFacts): WrittenFigures | undefined {
  try {
    return figuresOf(termsOfWritten(scenario), market, { close: NaN });
  } catch (error) {
    if (error instanceof ConditionFault) return undefined;
    throw error;
  }
}

import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Found } from "#core/finding/found";
import type { MarketFacts } from "#core/marks/kind";
import {
  estimateText,
  patternOfFound,
  patternText,
  rateOfFound,
  rateText,
  worthOfFound,
  worthText,
} from "#core/measure/worthText";
import type { MarketWorth } from "../../../../server/desk/worth.ts";

interface Props {
  fact: Found;
  worth: MarketWorth;
  market: MarketFacts;
}

/** What findings of this kind were worth on this rung, and where all of it stands. */
export function WorthLine({ fact, worth: { rungs, measuring }, market }: Props) {
  const known = worthOfFound(fact, rungs);
  const rate = rateOfFound(fact, rungs);
  const pattern = patternOfFound(fact, rungs);
  const says = known ? worthText(known.worth) : rate ? rateText(rate) : pattern && patternText(pattern);
  const waits = (fact.measured ?? fact.rate ?? fact.kind === "pattern") && measuring.includes(fact.rung);
  return (
    <Typography variant="caption" component="p">
      {says ?? (waits ? "What its kind was worth here is being measured" : "What its kind was worth is not measured")}
      {known?.grade !== undefined ? `; ${estimateText(known.grade)}` : ""}.{" "}
      <MuiLink component={Link} to={`/worth/${market.id}`}>
        All kinds
      </MuiLink>
    </Typography>
  );
}

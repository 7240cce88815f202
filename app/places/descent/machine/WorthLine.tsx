import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Found } from "#core/finding/found";
import type { MarketFacts } from "#core/marks/kind";
import { worthSays } from "#core/measure/worthText";
import type { MarketWorth } from "../../../../server/desk/worth.ts";

interface Props {
  fact: Found;
  worth: MarketWorth;
  market: MarketFacts;
}

/** What findings of this kind were worth on this rung, and where all of it stands. */
export function WorthLine({ fact, worth, market }: Props) {
  return (
    <Typography variant="caption" component="p">
      {worthSays(fact, worth) ?? "What its kind was worth is not measured"}.{" "}
      <MuiLink component={Link} to={`/worth/${market.id}`}>
        All kinds
      </MuiLink>
    </Typography>
  );
}

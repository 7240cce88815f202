import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Call } from "../../../server/round/calls.ts";

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The scenarios of a market at a stop: the preferred first, and where each that was published stands. */
export function Calls({
  calls,
  market,
  rung,
  said,
}: {
  calls: readonly Call[];
  market: string;
  rung: string;
  said: string;
}) {
  if (calls.length === 0 && said === "") return null;
  return (
    <Box component="section" aria-label="Scenarios" sx={{ mt: 0.75, borderTop: 1, borderColor: "divider", pt: 0.5 }}>
      {calls.map(({ id, title, role, weight, direction, published }) => (
        <Typography key={id} variant="body2" sx={{ mb: 0.25 }}>
          <MuiLink component={Link} to={`/descent/${market}?rung=${rung}`}>
            {title}
          </MuiLink>
          {title.includes(direction) ? "" : `, ${direction}`}, {role}, {weight} %.{" "}
          {published ? <strong>{capital(published.says)}.</strong> : "Not published."}
        </Typography>
      ))}
      {said && (
        <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
          {said}
        </Typography>
      )}
    </Box>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { rText } from "#core/scenarios/say";
import type { CallLine, ChangeLine } from "../../../server/readers/calls.ts";
import { useTimes } from "../../parts/useTimes.ts";

/** Calls under each other: what is called, where it stands, and the price that proves it wrong. */
export function CallList({ calls, ofOneMarket = false }: { calls: readonly CallLine[]; ofOneMarket?: boolean }) {
  return (
    <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {calls.map(({ edition, scenarioId, market, title, direction, wrong, phase, says, ended }) => (
        <Box component="li" key={`${edition} ${scenarioId}`} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
          <Typography variant="body2">
            {!ofOneMarket && (
              <>
                <MuiLink component={Link} to={`/markets/${market.id}`} sx={{ fontWeight: 600 }}>
                  {market.name}
                </MuiLink>
                ,{" "}
              </>
            )}
            <strong>{direction}</strong>: {title}
          </Typography>
          <Typography variant="body2">
            {phase === "done" ? overText(ended) : says ? `Now: ${says}.` : "Now."}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {wrong && phase !== "done" && <strong>{`\u00d7 Wrong ${wrong}. `}</strong>}
            <MuiLink component={Link} to={`/outlooks/${edition}`}>
              Edition {edition}
            </MuiLink>
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** How it ended, and what it came to as a whole. */
function overText(ended: CallLine["ended"]): string {
  if (!ended) return "Over.";
  return `Over${ended.r === undefined ? "" : `, ${rText(ended.r)}`}. ${ended.says}`;
}

/** What happened to calls, the latest first. */
export function ChangeList({
  changes,
  ofOneMarket = false,
}: {
  changes: readonly ChangeLine[];
  ofOneMarket?: boolean;
}) {
  const { moment } = useTimes();
  return (
    <Box component="ol" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {changes.map(({ edition, market, title, at, says }, i) => (
        <Typography component="li" variant="body2" key={i} sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
          <Box component="span" sx={{ color: "text.secondary" }}>
            {moment(at)}.
          </Box>{" "}
          {!ofOneMarket && <strong>{market.name}. </strong>}
          {says}{" "}
          <MuiLink component={Link} to={`/outlooks/${edition}`} aria-label={`${title}, edition ${edition}`}>
            {title}
          </MuiLink>
        </Typography>
      ))}
    </Box>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { sightOf } from "../../../server/accounts/plans.ts";
import { editionsSeen } from "../../../server/readers/seen.ts";
import { answer, personIn } from "../../access.server.ts";
import { momentText } from "../../parts/times.ts";
import { SERIF } from "../../theme/theme.ts";
import type { Route } from "./+types/outlooks.ts";

export const meta: Route.MetaFunction = () => [{ title: "Outlooks - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    editions: await editionsSeen(await sightOf(personIn(context))),
    now: Date.now(),
  }));
}

export default function Outlooks({ loaderData: { editions, now } }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ maxWidth: 760, mx: "auto", px: 2, py: 4 }}>
      <Typography variant="h1" sx={{ mb: 2 }}>
        Outlooks
      </Typography>
      {editions.length === 0 && (
        <Typography>Nothing has been published yet. The first outlook will stand here.</Typography>
      )}
      {editions.map(({ number, title, publishedAt, from }) => (
        <Box key={number} sx={{ borderTop: 1, borderColor: "divider", py: 1.5 }}>
          <MuiLink
            component={Link}
            to={`/outlooks/${number}`}
            underline="hover"
            sx={{ fontFamily: SERIF, fontSize: "1.25rem", fontWeight: 600 }}
          >
            {title}
          </MuiLink>
          <Typography variant="body2" color="text.secondary">
            Edition {number}, {momentText(publishedAt, "utc")} UTC
            {from > now && `; your plan shows it from ${momentText(from, "utc")} UTC on`}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

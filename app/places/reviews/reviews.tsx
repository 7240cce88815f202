import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { listReadings } from "../../../server/publishing/reading.ts";
import { answer } from "../../access.server.ts";
import { momentText } from "../../parts/times.ts";
import type { Route } from "./+types/reviews.ts";

export const meta: Route.MetaFunction = () => [{ title: "Drafts to read - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ readings: await listReadings() }));
}

const SAYS = { asked: "waits for a reading", approved: "approved", back: "asked back" } as const;

/** Drafts of the desk: those that wait for a reading first. */
export default function Reviews({ loaderData: { readings } }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ maxWidth: 860, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Drafts to read
      </Typography>
      {readings.length === 0 && <Typography>Nothing is being written.</Typography>}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {readings.map(({ id, title, author, updatedAt, state, isChanged }) => (
          <Box component="li" key={id} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
            <MuiLink component={Link} to={`/reviews/${id}`} underline="hover" sx={{ fontWeight: 600 }}>
              {title || "Without a title yet"}
            </MuiLink>
            <Typography variant="body2" color="text.secondary">
              {author}, last changed {momentText(updatedAt, "utc")} UTC
              {state && `; ${SAYS[state]}${isChanged ? ", changed since" : ""}`}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

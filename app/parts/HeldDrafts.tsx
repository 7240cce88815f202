import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { HeldDraft } from "../../server/publishing/held.ts";
import { utcText } from "./times.ts";

/** How often it is asked for while a page stands open (ms). */
const EVERY = 30_000;

/** Outlooks that were to go out and did not, on every page of the desk until somebody takes them back in hand. */
export function HeldDrafts({ held }: { held: readonly HeldDraft[] }) {
  const { data } = useQuery<readonly HeldDraft[]>({
    queryKey: ["/editions/held"],
    initialData: held,
    refetchInterval: EVERY,
  });
  if (data.length === 0) return null;
  return (
    <Box
      role="alert"
      aria-label="Held outlooks"
      sx={{ bgcolor: "text.primary", color: "background.paper", px: 2, py: 0.5 }}
    >
      {data.map(({ id, title, at, held: why }) => (
        <Typography key={id} variant="body2" sx={{ overflowWrap: "anywhere" }}>
          <MuiLink component={Link} to={`/editions/${id}`} sx={{ color: "inherit", fontWeight: 600 }}>
            {title.trim() || "An outlook without a title"}
          </MuiLink>{" "}
          did not go out at {utcText(at)}: {why}
        </Typography>
      ))}
    </Box>
  );
}

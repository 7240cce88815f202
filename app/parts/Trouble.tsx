import Box from "@mui/material/Box";
import Link from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { isRouteErrorResponse } from "react-router";

const SAYINGS: Record<number, [string, string]> = {
  401: ["Please sign in.", "This needs an account."],
  403: ["This is not yours to open.", "Your account does not reach this place."],
  413: ["This is too large.", "Send it in parts."],
  429: ["One moment.", "Too much was asked for in a short time."],
  503: ["The desk is catching its breath.", "It will be back in a few seconds; nothing that was stored is lost."],
  404: ["There is nothing here.", "The address may be old, or mistyped."],
};

/** What of a failure is shown. */
export interface FailureShown {
  sentence?: string;
  remedy?: string;
  requestId?: string;
}

interface Props {
  status: number;
  failure?: FailureShown | undefined;
}

/** The trouble that a route's error is. */
export function RouteTrouble({ error }: { error: unknown }) {
  const known = isRouteErrorResponse(error);
  const failure = known ? (error.data as { failure?: FailureShown } | null)?.failure : undefined;
  return <Trouble status={known ? error.status : 500} failure={failure} />;
}

/** The one calm page for anything that went wrong. */
export function Trouble({ status, failure }: Props) {
  // Only what has a number was written down.
  const [title, sentence] = SAYINGS[status] ?? [
    "This did not work.",
    failure?.requestId ? "Something went wrong on our side; it has been noted." : "Load the page once more.",
  ];
  return (
    <Box component="main" id="content" sx={{ maxWidth: 560, mx: "auto", px: 3, pt: "16vh" }}>
      <title>{`${title.replace(/\.$/, "")} - Even Compass`}</title>
      <Typography variant="h1" gutterBottom>
        {title}
      </Typography>
      <Typography>{failure?.sentence ?? sentence}</Typography>
      {failure?.remedy && <Typography>{failure.remedy}</Typography>}
      {failure?.requestId && <Typography color="text.secondary">Number of the request: {failure.requestId}</Typography>}
      <Typography sx={{ mt: 2 }}>
        <Link href="/">Go on from the beginning</Link>
      </Typography>
    </Box>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { sightOf } from "../../../server/accounts/plans.ts";
import { paperDrawings } from "../../../server/readers/seenPictures.ts";
import { answer, personIn } from "../../access.server.ts";
import { OutlookPage } from "./OutlookPage.tsx";
import { readOutlook } from "./readOutlook.server.ts";
import type { Route } from "./+types/outlook.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { title?: string } | undefined)?.title ?? "Outlook"} - Even Compass` },
];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    const outlook = await readOutlook(params.number, sight);
    const isForPaper = new URL(request.url).searchParams.get("as") === "paper";
    const drawings = isForPaper ? await paperDrawings(outlook.number, sight) : undefined;
    return { outlook, title: outlook.title, drawings };
  });
}

export default function Outlook({ loaderData: { outlook, drawings } }: Route.ComponentProps) {
  const [width, layout] = drawings ? [740, "paper" as const] : [1160, undefined];
  return (
    <Box component="main" id="content" sx={{ maxWidth: width, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <OutlookPage {...{ outlook, drawings, layout }} />
      <Typography variant="body2" data-no-print sx={{ mt: 1 }}>
        {drawings ? (
          <MuiLink href={`/outlooks/${outlook.number}`}>As a page</MuiLink>
        ) : (
          <MuiLink href={`/outlooks/${outlook.number}?as=paper`}>For paper</MuiLink>
        )}
      </Typography>
    </Box>
  );
}

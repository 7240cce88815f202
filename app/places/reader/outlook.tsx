import Box from "@mui/material/Box";
import { sightOf } from "../../../server/accounts/plans.ts";
import { answer, personIn } from "../../access.server.ts";
import { OutlookPage } from "./OutlookPage.tsx";
import { readOutlook } from "./readOutlook.server.ts";
import type { Route } from "./+types/outlook.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { title?: string } | undefined)?.title ?? "Outlook"} - Even Compass` },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => readOutlook(params.number, await sightOf(personIn(context))));
}

export default function Outlook({ loaderData }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <OutlookPage outlook={loaderData} />
    </Box>
  );
}

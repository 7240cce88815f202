import Box from "@mui/material/Box";
import { LAYOUT_NAMES } from "#core/edition/layouts";
import { findPlan, WHOLE } from "../../../server/accounts/plans.ts";
import { answer } from "../../access.server.ts";
import { OutlookPage } from "../reader/OutlookPage.tsx";
import { readPreview } from "../reader/readOutlook.server.ts";
import type { Route } from "./+types/read.ts";

export const meta: Route.MetaFunction = () => [{ title: "As readers see it - Even Compass" }];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const asked = new URL(request.url).searchParams;
    const plan = asked.get("plan") ?? "";
    const layout = LAYOUT_NAMES.find((name) => name === asked.get("layout"));
    const sight = plan === "" ? WHOLE : await findPlan(plan);
    return { outlook: await readPreview(params.draft, sight), plan, layout, draft: params.draft };
  });
}

/** A draft as readers on a plan would see it, without the frame around it. */
export default function Read({ loaderData: { outlook, plan, layout, draft } }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <OutlookPage
        {...{ outlook, layout }}
        voiceAt={(sha256) => `/editions/${draft}/voice?of=${sha256}`}
        pictureAt={(index) =>
          `/editions/${draft}/picture/${index}${plan === "" ? "" : `?plan=${encodeURIComponent(plan)}`}`
        }
      />
    </Box>
  );
}

import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link, redirect, useFetcher } from "react-router";
import { nameOf } from "../../../server/accounts/accounts.ts";
import { WHOLE } from "../../../server/accounts/plans.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { deskSettings } from "../../../server/publishing/deskSettings.ts";
import { readDraft, READING_STEPS } from "../../../server/publishing/reading.ts";
import { Failure } from "../../../server/failure.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { Outcome } from "../../parts/Outcome.tsx";
import { ReadByColleague } from "../editions/ReadByColleague.tsx";
import { OutlookPage } from "../reader/OutlookPage.tsx";
import { readPreview } from "../reader/readOutlook.server.ts";
import type { Route } from "./+types/review.ts";

export const meta: Route.MetaFunction = () => [{ title: "A draft to read - Even Compass" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const draft = await findDraft(params.draft);
    if (draft.published !== null) throw redirect(`/outlooks/${draft.published}`);
    return {
      outlook: await readPreview(draft.id, WHOLE),
      author: await nameOf(draft.accountId),
      ...{ draft: draft.id, version: draft.version, reading: draft.reading ?? null },
      wanted: (await deskSettings()).reading,
      own: draft.accountId === personIn(context).id,
    };
  });
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const step = READING_STEPS.find((one) => one === textField(form, "step"));
    if (!step)
      throw new Failure("step", "Nothing was said of the draft.", { status: 400, kept: "Nothing was changed." });
    const version = Number(textField(form, "version"));
    await readDraft(params.draft, step, personIn(context), version, textField(form, "words"));
    return {};
  });
}

/** A draft as it would be published, and what whoever reads it says of it. */
export default function Review({
  loaderData: { outlook, author, draft, version, reading, wanted, own },
}: Route.ComponentProps) {
  const fetcher = useFetcher<typeof action>();
  const failure = fetcher.data && "failure" in fetcher.data ? fetcher.data.failure : undefined;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <Typography variant="body2">
        <MuiLink component={Link} to="/reviews">
          Drafts to read
        </MuiLink>
        : a draft of {author}&apos;s, as it would be published now. What you say of it stands below.
      </Typography>
      <OutlookPage
        outlook={outlook}
        voiceAt={(sha256) => `/editions/${draft}/voice?of=${sha256}`}
        pictureAt={(index) => `/editions/${draft}/picture/${index}`}
      />
      <Box sx={{ maxWidth: 560, borderTop: "1.5px solid", borderColor: "text.primary", mt: 4 }}>
        <Outcome said={undefined} failure={failure} />
        <ReadByColleague {...{ reading, wanted, version, own, fetcher }} disabled={fetcher.state !== "idle"} />
      </Box>
    </Box>
  );
}

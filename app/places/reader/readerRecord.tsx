import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { canSee } from "#core/edition/parts";
import { sayRecord } from "#core/edition/recordFigures";
import { sightOf } from "../../../server/accounts/plans.ts";
import { recordSoFar } from "../../../server/publishing/recordSoFar.ts";
import { callsSeen } from "../../../server/readers/calls.ts";
import { answer, personIn } from "../../access.server.ts";
import { CallList } from "./CallList.tsx";
import type { Route } from "./+types/readerRecord.ts";

export const meta: Route.MetaFunction = () => [{ title: "Record - Even Compass" }];

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    const calls = await callsSeen(sight, Date.now());
    return {
      figures: canSee("scenarios+orders", sight.parts) ? await recordSoFar() : undefined,
      calls: calls.sort((a, b) => b.edition - a.edition),
    };
  });
}

/** What was called, and what became of it: all of it, with how sure the figures are. */
export default function ReaderRecord({ loaderData: { figures, calls } }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ maxWidth: 760, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Record
      </Typography>
      {figures ? (
        sayRecord(figures).map((text) => (
          <Typography key={text} sx={{ mb: 0.5 }}>
            {text}
          </Typography>
        ))
      ) : (
        <Typography>Results are for other plans than yours.</Typography>
      )}
      <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
        Every call, the latest first
      </Typography>
      {calls.length > 0 ? <CallList calls={calls} /> : <Typography>None that your plan shows.</Typography>}
      <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
        What is proven
      </Typography>
      <Typography variant="body2">
        Every outlook, and everything that became of a call, is entered in a chain when it is stored: changed, moved or
        taken out later, it no longer fits. Every call is worked out again from its text and from the bars it was told,
        and must come to what stands here.
      </Typography>
      <Typography variant="body2" sx={{ mt: 1 }}>
        Not proven: where the bars came from, and that nobody who holds both the database and the keys of this desk
        wrote another record. Against that you can keep <MuiLink href="/record/chain.json">the chain</MuiLink> yourself:
        it says nothing of what its entries are of.
      </Typography>
    </Box>
  );
}

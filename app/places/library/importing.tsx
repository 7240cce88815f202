import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link, useRevalidator } from "react-router";
import { findImport, type ImportStep } from "../../../server/intake/jobs.ts";
import { answer, personIn } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { ImportDone } from "./ImportDone.tsx";
import type { Route } from "./+types/importing.ts";

export const meta: Route.MetaFunction = () => [{ title: "Import - Even Compass" }];

/** How often it is asked how far an import is (ms). */
const ASKED_EVERY = 700;

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const job = await findImport(params.import, personIn(context).id);
    return job.state === "refused" ? { ...job, failure: job.failure.body.failure } : job;
  });
}

const STEPS: Record<ImportStep, string> = {
  reading: "The file is read and checked.",
  storing: "Its bars are stored.",
  telling: "Those who watch this market are told.",
};

/** Shows how far a large import is; what it did, once it is over. */
export default function Importing({ loaderData: job }: Route.ComponentProps) {
  const { revalidate, state } = useRevalidator();
  const isAsked = job.state === "working" && state === "idle";
  useEffect(() => {
    if (!isAsked) return;
    const timer = setTimeout(() => void revalidate(), ASKED_EVERY);
    return () => clearTimeout(timer);
  }, [isAsked, revalidate]);
  if (job.state === "stored") return <ImportDone report={job.report} />;
  return (
    <Page>
      <PageTitle>{job.fileName}</PageTitle>
      {job.state === "refused" ? (
        <>
          <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
            {failureText(job.failure)}
          </Typography>
          <Button component={Link} to={`/library/import?upload=${job.id}`} variant="contained">
            Back to the file
          </Button>{" "}
        </>
      ) : (
        <>
          <Typography id="step">{STEPS[job.step]}</Typography>
          <LinearProgress
            aria-labelledby="step"
            variant={job.step === "telling" ? "indeterminate" : "determinate"}
            value={Math.round(100 * job.share)}
            sx={{ my: 2, maxWidth: 480, height: 6 }}
          />
          <Typography sx={{ mb: 2 }}>
            It goes on without this page. Until it is over nothing of it is stored; then all of it is.
          </Typography>
        </>
      )}
      <Button component={Link} to="/library" variant="text">
        Back to the library
      </Button>
    </Page>
  );
}

import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Form, redirect, useNavigation, useSubmit } from "react-router";
import { ConfirmImportDto } from "#contracts/market";
import { readDto } from "#contracts/read";
import { countText } from "#core/marks/wording";
import { importUpload, inspectUpload, splitUpload } from "../../../server/intake/import.ts";
import { beginImport, waitForImport } from "../../../server/intake/jobs.ts";
import { listMarkets } from "../../../server/bars/markets.ts";
import type { FileOptions } from "../../../server/tasks/readBars.ts";
import { findUpload, partsBeside } from "../../../server/bars/uploads.ts";
import { Failure } from "../../../server/failure.ts";
import { answer, attempt, personIn, readForm } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";
import { failureText } from "../../parts/post.ts";
import { ColumnsTable } from "./ColumnsTable.tsx";
import { ImportConfirm, saidOptions } from "./ImportConfirm.tsx";
import { ImportDone } from "./ImportDone.tsx";
import { partAddress, PartsBeside } from "./PartsBeside.tsx";
import type { Route } from "./+types/import.ts";

export const meta: Route.MetaFunction = () => [{ title: "Import - Even Compass" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const query = new URL(request.url).searchParams;
    const zone = query.get("zone") || "UTC";
    const order = query.get("order");
    const options: FileOptions = { zone };
    if (order === "dmy" || order === "mdy") options.order = order;
    const numbers = query.get("numbers");
    if (numbers === "decimals" || numbers === "thousands") options.numbers = numbers;
    if (query.get("close") === "adjusted") options.isAdjusted = true;
    const columns = query.get("columns");
    if (columns) options.columns = columns.slice(0, 200);
    const { id } = personIn(context);
    const upload = await findUpload(query.get("upload") ?? "", id);
    const inspection = await inspectUpload(upload.id, options, id, request.signal);
    const markets = (await listMarkets())
      .filter(({ formula }) => formula === null)
      .map(({ id, name }) => ({ id, name }));
    return { upload: upload.id, inspection, markets, options, beside: await partsBeside(upload, id) };
  });
}

/** What takes longer than this (ms) is told on a page of its own, as it goes on. */
const WAIT = 4_000;

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = Object.fromEntries(await readForm(request));
    const { upload, close, step, ...rest } = form;
    const [order, numbers, columns] = [rest.order, rest.numbers, rest.columns].map((one) => one || undefined);
    const { id } = personIn(context);
    if (step === "split") {
      const [first] = await splitUpload(String(upload), columns === undefined ? undefined : String(columns), id);
      throw redirect(partAddress(first, columns === undefined ? undefined : String(columns)));
    }
    const read = readDto(ConfirmImportDto, {
      ...rest,
      ...{ order, numbers, columns, isAdjusted: close === "adjusted" },
      tick: Number(rest.tick),
      decimals: Number(rest.decimals),
    });
    if (!read.ok)
      throw new Failure("fields", "Something is missing.", {
        status: 400,
        kept: "Nothing was stored.",
        fields: read.fields,
      });
    const waiting = await findUpload(String(upload), id);
    await beginImport(waiting, id, (told) => importUpload(waiting.id, read.value, id, told));
    const job = await waitForImport(waiting.id, id, WAIT);
    if (job.state === "refused") throw job.failure;
    return job.state === "stored" ? { report: job.report } : redirect(`/library/importing/${job.id}`);
  });
}

/** The loader reads the file again; after the import it is gone, and what happened is what the action said. */
export function shouldRevalidate({
  formMethod,
  currentUrl,
  nextUrl,
  defaultShouldRevalidate,
}: {
  formMethod?: string;
  currentUrl: URL;
  nextUrl: URL;
  defaultShouldRevalidate: boolean;
}) {
  return formMethod === "POST" && currentUrl.search === nextUrl.search ? false : defaultShouldRevalidate;
}

export default function Import({ loaderData, actionData }: Route.ComponentProps) {
  const { upload, inspection, markets, options, beside } = loaderData;
  const submit = useSubmit();
  const busy = useNavigation().state !== "idle";
  if (actionData && "report" in actionData && actionData.report)
    return <ImportDone report={actionData.report} beside={beside} columns={options.columns} />;
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const reread = (change: Record<string, string>) =>
    void submit({ upload, ...saidOptions(options), ...change }, { method: "get" });
  return (
    <Page>
      <PageTitle>{inspection.name}</PageTitle>
      <PartsBeside beside={beside} columns={options.columns} />
      {"open" in inspection ? (
        <Typography role="status" sx={{ fontWeight: 600 }}>
          {inspection.sentence}
        </Typography>
      ) : (
        <ImportConfirm
          // Anew for another file: what was chosen for the one before is not meant for it.
          key={upload}
          {...{ upload, inspection, markets, options, failure, reread }}
        />
      )}
      {"open" in inspection && inspection.open === "markets" && (
        <Form method="post">
          <input type="hidden" name="upload" value={upload} />
          <input type="hidden" name="step" value="split" />
          <input type="hidden" name="columns" value={options.columns ?? ""} />
          <Typography sx={{ mt: 1 }}>
            {inspection.markets
              .slice(0, 40)
              .map(({ name, rows }) => `${name || "without a name"} (${countText(rows, "row")})`)
              .join(", ")}
            {inspection.markets.length > 40 && ", ..."}
          </Typography>
          {failure && (
            <Typography role="alert" sx={{ mt: 1, fontWeight: 600 }}>
              {failureText(failure)}
            </Typography>
          )}
          <Button type="submit" variant="contained" disabled={busy} sx={{ mt: 2 }}>
            Import them one after the other
          </Button>
        </Form>
      )}
      <ColumnsTable key={`${upload} ${options.columns ?? ""}`} inspection={inspection} reread={reread} />
    </Page>
  );
}

import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import MenuItem from "@mui/material/MenuItem";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form, Link, redirect } from "react-router";
import { EDITION_KINDS, KIND_NAMES } from "#core/edition/blocks";
import { beginCorrection, CORRECTIONS } from "../../../server/publishing/corrections.ts";
import { createDraft, listDrafts } from "../../../server/publishing/drafts.ts";
import { listEditions } from "../../../server/publishing/editions.ts";
import { rollForward } from "../../../server/publishing/rollForward.ts";
import { watchedMarkets } from "../../../server/round/rounds.ts";
import { recordHead } from "../../../server/record/file.ts";
import { answer, personIn, readForm, textField } from "../../access.server.ts";
import { questionsWaiting } from "../../../server/readers/questions.ts";
import { countText } from "#core/marks/wording";
import { spanText } from "../../../chart/measure.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText, utcText } from "../../parts/times.ts";
import { RecordLine } from "../../parts/RecordLine.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/editions.ts";

export const meta: Route.MetaFunction = () => [{ title: "Editions - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    drafts: (await listDrafts()).map(({ id, title, updatedAt, goesOut }) => ({
      ...{ id, title, goesOut },
      ago: Math.max(0, Date.now() - updatedAt),
    })),
    editions: await listEditions(),
    head: await recordHead(),
    waiting: await questionsWaiting(),
  }));
}

export function action({ request, context }: Route.ActionArgs) {
  return answer(context, async () => {
    const form = await readForm(request);
    const { id } = personIn(context);
    const from = textField(form, "from");
    const kind = textField(form, "kind");
    const of = numberOf(textField(form, "of"));
    const how = CORRECTIONS.find((one) => one === textField(form, "how"));
    if (how) throw redirect(`/editions/${(await beginCorrection(of, how, id)).id}`);
    const draft = from
      ? await rollForward(numberOf(from), id, await watchedMarkets(id))
      : await createDraft(id, { kind: KIND_NAMES.find((one) => one === kind) ?? "morning" });
    throw redirect(`/editions/${draft.id}`);
  });
}

const numberOf = (text: string) => (/^\d{1,9}$/.test(text) ? Number(text) : 0);

export default function Editions({ loaderData: { drafts, editions, head, waiting } }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle
        aside={
          <Form method="post" style={{ display: "flex", gap: 8, alignItems: "flex-end" }}>
            <TextField select label="Kind" name="kind" defaultValue="morning" sx={{ width: 150 }}>
              {KIND_NAMES.map((kind) => (
                <MenuItem key={kind} value={kind}>
                  {EDITION_KINDS[kind].name}
                </MenuItem>
              ))}
            </TextField>
            <Button type="submit" variant="contained">
              Begin an outlook
            </Button>
          </Form>
        }
      >
        Editions
      </PageTitle>
      <Typography sx={{ mb: 2 }}>
        <MuiLink component={Link} to="/questions">
          What readers ask
        </MuiLink>
        {waiting > 0 && `: ${countText(waiting, "question")} ${waiting === 1 ? "waits" : "wait"} for an answer.`}
      </Typography>
      <Typography variant="h2">Drafts</Typography>
      {drafts.length === 0 && (
        <Typography color="text.secondary">None. What you begin is saved as you write.</Typography>
      )}
      <Table aria-label="Drafts" sx={{ mb: 4 }}>
        <TableBody>
          {drafts.map(({ id, title, ago, goesOut }) => (
            <TableRow key={id}>
              <TableCell>
                <MuiLink component={Link} to={`/editions/${id}`}>
                  {title || "Untitled"}
                </MuiLink>
              </TableCell>
              <TableCell sx={{ fontWeight: goesOut?.held ? 600 : 400 }}>
                {goesOut && (goesOut.held ? `held: ${goesOut.held}` : `goes out at ${utcText(goesOut.at)}`)}
              </TableCell>
              <TableCell align="right">changed {ago < 60_000 ? "just now" : `${spanText(ago)} ago`}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="h2">Published</Typography>
      {editions.length === 0 && (
        <Typography color="text.secondary">
          Nothing yet. What is published is frozen and chained to the edition before.
        </Typography>
      )}
      {editions.length > 0 && (
        <Table aria-label="Published editions">
          <TableHead>
            <TableRow>
              <TableCell align="right">No.</TableCell>
              <TableCell>Kind</TableCell>
              <TableCell>Title</TableCell>
              <TableCell align="right">Market time (UTC)</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {editions.map(({ number, kind, title, marketTime }) => (
              <TableRow key={number}>
                <TableCell align="right">{number}</TableCell>
                <TableCell>{EDITION_KINDS[kind].name}</TableCell>
                <TableCell>
                  <MuiLink component={Link} to={`/outlooks/${number}`}>
                    {title}
                  </MuiLink>
                </TableCell>
                <TableCell align="right">{momentText(marketTime, "utc")}</TableCell>
                <TableCell align="right">
                  <Form method="post">
                    <input type="hidden" name="of" value={number} />
                    <Button type="submit" variant="text" name="from" value={number} aria-label={`Go on from ${number}`}>
                      Go on from it
                    </Button>
                    <Button type="submit" variant="text" name="how" value="correction" aria-label={`Correct ${number}`}>
                      Correct
                    </Button>
                    <Button
                      type="submit"
                      variant="text"
                      name="how"
                      value="withdrawal"
                      aria-label={`Withdraw ${number}`}
                    >
                      Withdraw
                    </Button>
                  </Form>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <RecordLine {...head} />
    </Page>
  );
}

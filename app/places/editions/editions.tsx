import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Form, Link, redirect } from "react-router";
import { createDraft, listDrafts } from "../../../server/publishing/drafts.ts";
import { listEditions } from "../../../server/publishing/editions.ts";
import { recordHead } from "../../../server/record/file.ts";
import { answer, personIn } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { RecordLine } from "../../parts/RecordLine.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/editions.ts";

export const meta: Route.MetaFunction = () => [{ title: "Editions - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    drafts: (await listDrafts()).map(({ id, title, updatedAt }) => ({ id, title, updatedAt })),
    editions: await listEditions(),
    head: await recordHead(),
  }));
}

export function action({ context }: Route.ActionArgs) {
  return answer(context, async () => {
    const draft = await createDraft(personIn(context).id);
    throw redirect(`/editions/${draft.id}`);
  });
}

export default function Editions({ loaderData: { drafts, editions, head } }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle
        aside={
          <Form method="post">
            <Button type="submit" variant="contained">
              Begin an outlook
            </Button>
          </Form>
        }
      >
        Editions
      </PageTitle>
      <Typography variant="h2">Drafts</Typography>
      {drafts.length === 0 && (
        <Typography color="text.secondary">None. What you begin is saved as you write.</Typography>
      )}
      <Table aria-label="Drafts" sx={{ mb: 4 }}>
        <TableBody>
          {drafts.map(({ id, title, updatedAt }) => (
            <TableRow key={id}>
              <TableCell>
                <MuiLink component={Link} to={`/editions/${id}`}>
                  {title || "Untitled"}
                </MuiLink>
              </TableCell>
              <TableCell align="right">changed {momentText(updatedAt, "utc")} UTC</TableCell>
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
              <TableCell>Title</TableCell>
              <TableCell align="right">Published (UTC)</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {editions.map(({ number, title, publishedAt }) => (
              <TableRow key={number}>
                <TableCell align="right">{number}</TableCell>
                <TableCell>
                  <MuiLink component={Link} to={`/outlooks/${number}`}>
                    {title}
                  </MuiLink>
                </TableCell>
                <TableCell align="right">{momentText(publishedAt, "utc")}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <RecordLine {...head} />
    </Page>
  );
}

import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { countText } from "#core/marks/wording";
import { deliveries } from "../../../server/delivery/deliveries.ts";
import { sendAgain } from "../../../server/outbox/outbox.ts";
import { answer, attempt, readForm, textField } from "../../access.server.ts";
import { HeadRow } from "../../parts/HeadRow.tsx";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/deliveries.ts";

export const meta: Route.MetaFunction = () => [{ title: "Deliveries - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, deliveries);
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const number = Number(textField(await readForm(request), "number"));
    return { sent: Number.isSafeInteger(number) && (await sendAgain(number)) };
  });
}

/** What is on its way to readers, and what did not reach them. */
export default function Deliveries({ loaderData: { counts, dead } }: Route.ComponentProps) {
  const { waiting, sent, dropped } = counts;
  return (
    <Page>
      <PageTitle>Deliveries</PageTitle>
      <Typography sx={{ mb: 2, maxWidth: 620 }}>
        {countText(sent, "mail")} handed over, {waiting} waiting for their time, {dropped} not sent because a plan no
        longer shows it or an account is closed. What nobody took after several tries lies here.
      </Typography>
      {dead.length === 0 && <Typography>No dead letters.</Typography>}
      {dead.length > 0 && (
        <Table aria-label="Dead letters">
          <HeadRow columns={["To", "What", "Why", "Since, UTC", ""]} />
          <TableBody>
            {dead.map(({ number, to, what, fault, createdAt }) => (
              <TableRow key={number}>
                <TableCell sx={{ overflowWrap: "anywhere" }}>{to}</TableCell>
                <TableCell>{what}</TableCell>
                <TableCell sx={{ overflowWrap: "anywhere" }}>{fault}</TableCell>
                <TableCell>{momentText(createdAt, "utc")}</TableCell>
                <TableCell align="right">
                  <Form method="post">
                    <input type="hidden" name="number" value={number} />
                    <Button type="submit" variant="text" aria-label={`Send ${what} to ${to} again`}>
                      Send again
                    </Button>
                  </Form>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Page>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Form, Link } from "react-router";
import { alertsOf, firingsOf, removeAlert, seenFirings } from "../../../server/alerts/alerts.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/alerts.ts";

export const meta: Route.MetaFunction = () => [{ title: "Alerts - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    const firings = await firingsOf(id, 100);
    // Whoever opens this page has seen them.
    if (firings.some(({ seen }) => !seen)) await seenFirings(firings[0].number, id);
    return { alerts: await alertsOf(id), firings };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    await removeAlert(textField(await readForm(request), "id"), personIn(context).id);
    return {};
  });
}

/** What alerts wait for, and what they told. */
export default function Alerts({ loaderData: { alerts, firings } }: Route.ComponentProps) {
  const waiting = alerts.filter(({ active }) => active);
  const over = alerts.filter(({ active }) => !active);
  return (
    <Page>
      <PageTitle>Alerts</PageTitle>
      <Typography sx={{ mb: 2, maxWidth: "62ch" }}>
        The server looks at every bar as it comes, whether a page is open or not. An alert is set where you are: on a
        stop of the round, at an area or on a mark in the Descent.
      </Typography>
      <Typography variant="h2">Waiting</Typography>
      {waiting.length === 0 && <Typography color="text.secondary">No alert waits.</Typography>}
      <Rows alerts={waiting} />
      <Typography variant="h2" sx={{ mt: 3 }}>
        What they told
      </Typography>
      {firings.length === 0 && (
        <Typography color="text.secondary">Nothing has happened yet that was waited for.</Typography>
      )}
      <Box component="ul" aria-label="What alerts told" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {firings.map(({ number, market, name, firedAt, says, seen }) => (
          <Box
            component="li"
            key={number}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr", sm: "190px 180px 1fr" },
              columnGap: 2,
              py: 0.4,
              borderBottom: 1,
              borderColor: "divider",
              fontWeight: seen ? 400 : 600,
            }}
          >
            <span>{momentText(firedAt, "utc")} UTC</span>
            <MuiLink component={Link} to={`/descent/${market}`}>
              {name}
            </MuiLink>
            <span>{says}</span>
          </Box>
        ))}
      </Box>
      {over.length > 0 && (
        <>
          <Typography variant="h2" sx={{ mt: 3 }}>
            Done with
          </Typography>
          <Rows alerts={over} />
        </>
      )}
    </Page>
  );
}

function Rows({ alerts }: { alerts: Route.ComponentProps["loaderData"]["alerts"] }) {
  return (
    <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {alerts.map(({ id, market, name, says, again, active }) => (
        <Box
          component="li"
          key={id}
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr", sm: "180px 1fr auto" },
            columnGap: 2,
            alignItems: "center",
            py: 0.25,
            borderBottom: 1,
            borderColor: "divider",
            color: active ? "text.primary" : "text.secondary",
          }}
        >
          <MuiLink component={Link} to={`/descent/${market}`}>
            {name}
          </MuiLink>
          <span>
            {says}
            {again ? " Every time." : ""}
          </span>
          <Form method="post">
            <input type="hidden" name="id" value={id} />
            <Button type="submit" variant="text" aria-label={`Remove: ${name}, ${says}`}>
              Remove
            </Button>
          </Form>
        </Box>
      ))}
    </Box>
  );
}

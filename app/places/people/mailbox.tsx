import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { mailsTaken, mailTaken } from "../../../server/delivery/mailbox.ts";
import { messagesReceived } from "../../../server/delivery/received.ts";
import { answer } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/mailbox.ts";

export const meta: Route.MetaFunction = () => [{ title: "Mailbox - Even Compass" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const id = new URL(request.url).searchParams.get("mail");
    return {
      mails: await mailsTaken(),
      mail: id ? await mailTaken(id) : undefined,
      received: await messagesReceived(),
    };
  });
}

/** What the stand-in for the world's mail has taken: the mails as their readers have them. */
export default function Mailbox({ loaderData: { mails, mail, received } }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle>Mailbox</PageTitle>
      <Typography sx={{ mb: 2, maxWidth: 620 }}>
        No mail of this desk leaves the machine unless it is told whom to hand it to: what is sent lies here.
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "300px minmax(0, 1fr)" }, gap: 3 }}>
        <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {mails.length === 0 && <Typography component="li">Nothing was sent yet.</Typography>}
          {mails.map(({ id, to, subject, at }) => (
            <Box component="li" key={id} sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
              <MuiLink
                component={Link}
                to={`?mail=${id}`}
                aria-current={mail?.id === id ? "true" : undefined}
                sx={{ fontWeight: mail?.id === id ? 600 : 400 }}
              >
                {subject}
              </MuiLink>
              <Typography variant="body2" color="text.secondary">
                {to}, {momentText(at, "utc")} UTC
              </Typography>
            </Box>
          ))}
        </Box>
        {mail && (
          <Box component="section" aria-label={mail.subject}>
            <Typography variant="h2">{mail.subject}</Typography>
            <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
              To {mail.to}
            </Typography>
            {mail.html && (
              // What is within has no scripts, no origin and asks for nothing.
              <Box
                component="iframe"
                title="As it is shown"
                sandbox=""
                src={`/mailbox/${mail.id}`}
                sx={{ width: "100%", height: 560, border: 1, borderColor: "divider" }}
              />
            )}
            <details>
              <summary>As text, with its headers</summary>
              <Box component="pre" sx={{ whiteSpace: "pre-wrap", overflowWrap: "anywhere", fontSize: "0.8rem" }}>
                {`${mail.headers.map(([name, value]) => `${name}: ${value}`).join("\n")}\n\n${mail.text}`}
              </Box>
            </details>
          </Box>
        )}
      </Box>
      <Typography variant="h2" sx={{ mt: 3 }}>
        Told to programs
      </Typography>
      {received.length === 0 && <Typography>No reader's program on this machine was told anything yet.</Typography>}
      {received.map(({ id, path, at, headers, body }) => (
        <Box component="details" key={id} sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
          <summary>
            {path}, {momentText(at, "utc")} UTC
          </summary>
          <Box component="pre" sx={{ whiteSpace: "pre-wrap", overflowWrap: "anywhere", fontSize: "0.8rem" }}>
            {`${headers.map(([name, value]) => `${name}: ${value}`).join("\n")}\n\n${body}`}
          </Box>
        </Box>
      ))}
    </Page>
  );
}

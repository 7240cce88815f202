import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { unsealed } from "../../server/secret.ts";
import { notFound } from "../../server/failure.ts";
import { endMail } from "../../server/readers/choices.ts";
import { answer, attempt } from "../access.server.ts";
import type { Route } from "./+types/unsubscribe.ts";

export const meta: Route.MetaFunction = () => [{ title: "No more mail - Even Compass" }];

function accountOf(token: string): string {
  const id = unsealed("unsubscribe", token);
  if (id === undefined) throw notFound("address");
  return id;
}

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, () => {
    accountOf(params.token);
    return Promise.resolve(null);
  });
}

/** Done by the page's button, and by mail programs in one click (RFC 8058): nobody has to sign in for it. */
export function action({ params, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    await endMail(accountOf(params.token));
    return { ended: true };
  });
}

export default function Unsubscribe({ actionData }: Route.ComponentProps) {
  const isEnded = actionData && "ended" in actionData;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 560, mx: "auto", px: 2, py: 6 }}>
      <Typography variant="h1" sx={{ mb: 2 }}>
        {isEnded ? "No more mail" : "Mail from Even Compass"}
      </Typography>
      {isEnded ? (
        <Typography role="status">Nothing is sent to you any more. Your account and what it shows stay.</Typography>
      ) : (
        <Form method="post">
          <Button type="submit" variant="contained">
            Send me no more mail
          </Button>
        </Form>
      )}
    </Box>
  );
}

import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import { Form, Link, useLocation } from "react-router";
import { SHORTEST_PASSWORD } from "#contracts/account";
import { choosePassword, type Chosen } from "../../../server/accounts/joining.ts";
import { ACCESS_ENDED } from "../../parts/accessEnded.ts";
import { attempt, readForm, textField } from "../../access.server.ts";
import { Door, DoorFailure } from "../../parts/Door.tsx";
import type { Route } from "./+types/password.ts";

export const meta: Route.MetaFunction = () => [{ title: "Choose a password - Even Compass" }];

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const [, place] = new URL(request.url).pathname.split("/");
    const form = await readForm(request);
    const name = form.has("name") ? textField(form, "name") : "";
    await choosePassword(PURPOSES[place] ?? "reset", params.token, textField(form, "password").slice(0, 200), name);
    return { chosen: true };
  });
}

const PURPOSES: Readonly<Record<string, Chosen>> = { confirm: "confirm", invite: "invite", reset: "reset" };

/**
 * Where the link of somebody who joins, of an invitation, or of a forgotten password leads. By a button: programs that
 * look into mails open every link, and must not use it up.
 */
export default function Password({ actionData }: Route.ComponentProps) {
  const isJoining = useLocation().pathname.startsWith("/confirm/");
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  if (actionData && "chosen" in actionData)
    return (
      <Door title={isJoining ? "You have joined" : "It is chosen"} says={isJoining ? JOINED : ACCESS_ENDED}>
        <MuiLink component={Link} to="/sign-in">
          Sign in with it
        </MuiLink>
      </Door>
    );
  return (
    <Door title={isJoining ? "This address is yours" : "Choose a password"} says={isJoining ? CHOOSE : undefined}>
      <Form method="post">
        {isJoining && (
          <TextField
            name="name"
            label="Name, if it is to be another than was said"
            autoComplete="name"
            slotProps={{ htmlInput: { maxLength: 100 } }}
            sx={{ mb: 2 }}
          />
        )}
        <TextField
          name="password"
          type="password"
          label="New password"
          autoComplete="new-password"
          required
          error={!!failure?.fields?.password}
          helperText={`At least ${SHORTEST_PASSWORD} characters, and none that many others have.`}
          slotProps={{ htmlInput: { minLength: SHORTEST_PASSWORD, maxLength: 200 } }}
          sx={{ mb: 2.5 }}
        />
        <DoorFailure failure={failure} />
        <Button type="submit" variant="contained" fullWidth size="medium">
          Choose it
        </Button>
      </Form>
    </Door>
  );
}

const JOINED = "Your mail address is confirmed, and your password is chosen.";
const CHOOSE = "Choose the password you sign in with. If it was not you who joined, close this page: nothing is made.";

import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import { Form, Link } from "react-router";
import { SHORTEST_PASSWORD } from "#contracts/account";
import { choosePassword } from "../../../server/accounts/joining.ts";
import { attempt, readForm, textField } from "../../access.server.ts";
import { Door, DoorFailure } from "../../parts/Door.tsx";
import type { Route } from "./+types/password.ts";

export const meta: Route.MetaFunction = () => [{ title: "Choose a password - Even Compass" }];

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const purpose = new URL(request.url).pathname.startsWith("/invite/") ? "invite" : "reset";
    await choosePassword(purpose, params.token, textField(await readForm(request), "password").slice(0, 200));
    return { chosen: true };
  });
}

/** Where the link of an invitation, or of a forgotten password, leads. */
export default function Password({ actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  if (actionData && "chosen" in actionData)
    return (
      <Door title="It is chosen" says="Every session of before has ended.">
        <MuiLink component={Link} to="/sign-in">
          Sign in with it
        </MuiLink>
      </Door>
    );
  return (
    <Door title="Choose a password">
      <Form method="post">
        <TextField
          name="password"
          type="password"
          label="New password"
          autoComplete="new-password"
          required
          error={!!failure?.fields?.password}
          helperText={`At least ${SHORTEST_PASSWORD} characters, and none that is tried first everywhere.`}
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

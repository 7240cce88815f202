import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import { Form, Link } from "react-router";
import { confirmAddress } from "../../../server/accounts/joining.ts";
import { attempt } from "../../access.server.ts";
import { Door, DoorFailure } from "../../parts/Door.tsx";
import type { Route } from "./+types/confirm.ts";

export const meta: Route.MetaFunction = () => [{ title: "Confirm - Even Compass" }];

export function action({ params, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    await confirmAddress(params.token);
    return { confirmed: true };
  });
}

/** By a button: programs that look into mails open every link, and must not use it up. */
export default function Confirm({ actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  if (actionData && "confirmed" in actionData)
    return (
      <Door title="It is yours" says="Your mail address is confirmed.">
        <MuiLink component={Link} to="/sign-in">
          Sign in
        </MuiLink>
      </Door>
    );
  return (
    <Door title="Confirm your mail address">
      <DoorFailure failure={failure} />
      <Form method="post">
        <Button type="submit" variant="contained" fullWidth size="medium">
          This address is mine
        </Button>
      </Form>
    </Door>
  );
}

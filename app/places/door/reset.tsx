import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { Form } from "react-router";
import { evenly } from "../../../server/accounts/evenly.ts";
import { askReset } from "../../../server/accounts/joining.ts";
import { attempt, readForm, textField } from "../../access.server.ts";
import { Door, DoorFailure } from "../../parts/Door.tsx";
import type { Route } from "./+types/reset.ts";

export const meta: Route.MetaFunction = () => [{ title: "A new password - Even Compass" }];

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const email = textField(await readForm(request), "email").slice(0, 254);
    await evenly(() => askReset(email));
    return { asked: true };
  });
}

/** Asks for a mail with a link to a new password; the answer does not tell whose address it is. */
export default function Reset({ actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  if (actionData && "asked" in actionData)
    return (
      <Door title="Look into your mailbox" says="If there is an account with this address, a mail is on its way to it.">
        {null}
      </Door>
    );
  return (
    <Door title="A new password" says="The link to it is sent to the account's mail address.">
      <Form method="post">
        <TextField name="email" type="email" label="Mail address" autoComplete="username" required sx={{ mb: 2.5 }} />
        <DoorFailure failure={failure} />
        <Button type="submit" variant="contained" fullWidth size="medium">
          Send it
        </Button>
      </Form>
    </Door>
  );
}

import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { Form } from "react-router";
import { JoinDto } from "#contracts/account";
import { readDto } from "#contracts/read";
import { evenly } from "../../../server/accounts/evenly.ts";
import { join, openPlans } from "../../../server/accounts/joining.ts";
import { Failure } from "../../../server/failure.ts";
import { countStep } from "../../../server/http/rates.ts";
import { callerContext } from "../../context.ts";
import { answer, attempt, readForm, textField } from "../../access.server.ts";
import { Door, DoorFailure } from "../../parts/Door.tsx";
import type { Route } from "./+types/join.ts";

export const meta: Route.MetaFunction = () => [{ title: "Join - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({ plans: await openPlans() }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    await countStep("join", context.get(callerContext));
    const form = await readForm(request);
    const fields = ["email", "name", "plan"].map((name) => [name, textField(form, name)]);
    const read = readDto(JoinDto, Object.fromEntries(fields));
    if (!read.ok) throw new Failure("fields", "Something is missing.", { status: 400, fields: read.fields });
    const { value } = read;
    await evenly(() => join(value));
    return { joined: true };
  });
}

/** Somebody joins as a reader; whose the address is chooses the password, behind the link that is sent to it. */
export default function Join({ loaderData: { plans }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  if (actionData && "joined" in actionData)
    return (
      <Door
        title="Look into your mailbox"
        says="A mail is on its way to you: behind its link you choose your password."
      >
        {null}
      </Door>
    );
  if (plans.length === 0)
    return (
      <Door title="By invitation" says="Nobody joins this desk by themselves: ask its owner for an invitation.">
        {null}
      </Door>
    );
  const field = (name: "name" | "email", label: string, type: string, complete: string) => (
    <TextField
      {...{ name, label, type }}
      autoComplete={complete}
      required
      error={!!failure?.fields?.[name]}
      helperText={failure?.fields?.[name]}
      sx={{ mb: 2 }}
    />
  );
  return (
    <Door
      title="Join"
      says="As a reader of what this desk publishes. You choose a password behind the link that is sent to you."
    >
      <Form method="post">
        {field("name", "Name", "text", "name")}
        {field("email", "Mail address", "email", "username")}
        <TextField select name="plan" label="Plan" defaultValue={plans[0].id} sx={{ mb: 2.5 }} fullWidth>
          {plans.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <DoorFailure failure={failure} />
        <Button type="submit" variant="contained" fullWidth size="medium">
          Join
        </Button>
      </Form>
    </Door>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import NativeSelect from "@mui/material/NativeSelect";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form, Link } from "react-router";
import { InviteDto } from "#contracts/account";
import { readDto } from "#contracts/read";
import { invite } from "../../../server/accounts/joining.ts";
import { Failure } from "../../../server/failure.ts";
import { closeAccount, listAccounts, openAccount, type AccountLine } from "../../../server/accounts/accounts.ts";
import { memberships, type MembershipLine } from "../../../server/accounts/memberships.ts";
import { listPlans, putOnPlan } from "../../../server/accounts/plans.ts";
import { isReader, ROLE_NAMES, ROLES } from "#core/readers/roles";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { HeadRow } from "../../parts/HeadRow.tsx";
import { Page } from "../../parts/Page.tsx";
import { failureText } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { membershipText } from "../account/membershipText.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/people.ts";

export const meta: Route.MetaFunction = () => [{ title: "People - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    own: personIn(context).id,
    accounts: await listAccounts(),
    plans: (await listPlans()).map(({ id, name }) => ({ id, name })),
    memberships: await memberships(),
  }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const id = textField(form, "id");
    const step = textField(form, "step");
    if (step === "invite") {
      const fields = ["email", "name", "role", "plan"].map((field) => [field, textField(form, field)]);
      const read = readDto(InviteDto, Object.fromEntries(fields));
      if (!read.ok)
        throw new Failure("fields", Object.values(read.fields)[0], { status: 400, kept: "Nobody was invited." });
      await invite(read.value);
      return { said: `${read.value.name} is invited: the mail is on its way.` };
    }
    if (step === "plan") await putOnPlan(id, textField(form, "plan"));
    else if (step === "open") await openAccount(id);
    else await closeAccount(id);
    return {};
  });
}

/** Who has an account here, and when they were last seen. */
export default function People({
  loaderData: { own, accounts, plans, memberships: held },
  actionData,
}: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  return (
    <Page>
      <PageTitle
        aside={
          <>
            <MuiLink component={Link} to="/plans">
              What plans show
            </MuiLink>{" "}
            <MuiLink component={Link} to="/desk" sx={{ ml: 2 }}>
              What the desk decides
            </MuiLink>{" "}
            <MuiLink component={Link} to="/audit" sx={{ ml: 2 }}>
              What everybody did
            </MuiLink>{" "}
            <MuiLink component={Link} to="/mailbox" sx={{ ml: 2 }}>
              Mail that was sent
            </MuiLink>{" "}
            <MuiLink component={Link} to="/deliveries" sx={{ ml: 2 }}>
              Deliveries
            </MuiLink>
          </>
        }
      >
        People
      </PageTitle>
      <Typography sx={{ mb: 2, maxWidth: "62ch" }}>
        Nobody signs in to a closed account any more; its sessions end at once. What it made stays, and it can be opened
        again. Whoever is invited is sent a link by which they choose their password.
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {actionData && "said" in actionData && (
        <Typography role="status" sx={{ mb: 2, fontWeight: 600 }}>
          {actionData.said}
        </Typography>
      )}
      <InviteForm key={accounts.length} plans={plans} />
      <Table aria-label="Accounts">
        <HeadRow columns={["Name", "Mail address", "Role", "Plan", "Last seen", ""]} />
        <TableBody>
          {accounts.map((account) => (
            <AccountRow
              key={account.id}
              {...{ account, plans, membership: held[account.id] }}
              own={account.id === own}
            />
          ))}
        </TableBody>
      </Table>
    </Page>
  );
}

function InviteForm({ plans }: { plans: readonly { id: string; name: string }[] }) {
  return (
    <Form method="post" aria-label="Invite somebody">
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "flex-end", mb: 3 }}>
        <TextField
          name="name"
          label="Name"
          required
          slotProps={{ htmlInput: { maxLength: 100 } }}
          sx={{ width: 170 }}
        />
        <TextField name="email" type="email" label="Mail address" required sx={{ width: 230 }} />
        <NativeSelect name="role" defaultValue="subscriber" inputProps={{ "aria-label": "Role" }}>
          {ROLE_NAMES.toReversed().map((role) => (
            <option key={role} value={role}>
              {ROLES[role].name}
            </option>
          ))}
        </NativeSelect>
        <NativeSelect name="plan" inputProps={{ "aria-label": "Plan of a reader" }}>
          {plans.map(({ id, name }) => (
            <option key={id} value={id}>
              on {name}
            </option>
          ))}
        </NativeSelect>
        <Button type="submit" name="step" value="invite" variant="contained">
          Invite
        </Button>
      </Box>
    </Form>
  );
}

function AccountRow({
  account: { id, name, email, role, plan, seenAt, closedAt },
  plans,
  membership,
  own,
}: {
  account: AccountLine;
  membership: MembershipLine | undefined;
  plans: readonly { id: string; name: string }[];
  own: boolean;
}) {
  const closed = closedAt !== null;
  return (
    <TableRow sx={closed ? { "& td, & th": { color: "text.secondary" } } : {}}>
      <TableCell component="th" scope="row">
        {name}
        {own && " (you)"}
      </TableCell>
      <TableCell sx={{ overflowWrap: "anywhere" }}>{email}</TableCell>
      <TableCell>{ROLES[role].name}</TableCell>
      <TableCell>
        {isReader({ role }) ? <PlanOf account={id} name={name} plan={plan} plans={plans} /> : "sees everything"}
        {membership && (
          <Typography variant="body2" color="text.secondary">
            {membershipText(membership)}
          </Typography>
        )}
      </TableCell>
      <TableCell>
        {closed
          ? `closed ${momentText(closedAt, "utc")} UTC`
          : seenAt === null
            ? "not signed in"
            : `${momentText(seenAt, "utc")} UTC`}
      </TableCell>
      <TableCell align="right">
        {!own && (
          <Form method="post">
            <input type="hidden" name="id" value={id} />
            <Button
              type="submit"
              name="step"
              value={closed ? "open" : "close"}
              variant="text"
              aria-label={`${closed ? "Open" : "Close"} the account of ${name}`}
            >
              {closed ? "Open again" : "Close"}
            </Button>
          </Form>
        )}
      </TableCell>
    </TableRow>
  );
}

/** The plan a reader is on, and another one. */
function PlanOf({
  account,
  name,
  plan,
  plans,
}: {
  account: string;
  name: string;
  plan: string;
  plans: readonly { id: string; name: string }[];
}) {
  return (
    <Form method="post">
      <input type="hidden" name="id" value={account} />
      <NativeSelect name="plan" defaultValue={plan} key={plan} inputProps={{ "aria-label": `Plan of ${name}` }}>
        {plans.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </NativeSelect>
      <Button type="submit" name="step" value="plan" variant="text" aria-label={`Put ${name} on this plan`}>
        Put
      </Button>
    </Form>
  );
}

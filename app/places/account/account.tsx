import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { Form, Link, redirect } from "react-router";
import MuiLink from "@mui/material/Link";
import { ChangePasswordDto, SHORTEST_PASSWORD } from "#contracts/account";
import { readDto } from "#contracts/read";
import { changePassword } from "../../../server/accounts/accounts.ts";
import { endAccess } from "../../../server/accounts/endAccess.ts";
import { ACCESS_ENDED } from "../../parts/accessEnded.ts";
import { endPasskey, passkeysOf } from "../../../server/accounts/passkeys.ts";
import { removeOwn } from "../../../server/accounts/ownData.ts";
import { endSessions, sessionsOf, type SessionLine } from "../../../server/accounts/sessions.ts";
import { Failure } from "../../../server/failure.ts";
import { isReader, ROLES } from "#core/readers/roles";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { sessionCookie, tokenOf } from "../../cookies.server.ts";
import { HeadRow } from "../../parts/HeadRow.tsx";
import { Outcome } from "../../parts/Outcome.tsx";
import { momentText } from "../../parts/times.ts";
import { Passkeys } from "./Passkeys.tsx";
import type { Route } from "./+types/account.ts";

export const meta: Route.MetaFunction = () => [{ title: "Account - Even Compass" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { id, name, role } = personIn(context);
    const passkeys = (await passkeysOf(id)).map(({ id: key, name: on, createdAt, usedAt }) => ({
      ...{ id: key, name: on, createdAt, usedAt: usedAt ?? null },
    }));
    return { name, role, passkeys, sessions: await sessionsOf(id, await tokenOf(request)) };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const { id } = personIn(context);
    const form = await readForm(request);
    const text = (name: string) => textField(form, name);
    const token = await tokenOf(request);
    switch (text("step")) {
      case "password": {
        const read = readDto(ChangePasswordDto, { current: text("current"), next: text("next") });
        if (!read.ok)
          throw new Failure("fields", "The password was not changed.", { status: 400, fields: read.fields });
        await changePassword(id, read.value, token);
        return { said: `The password is changed. ${ACCESS_ENDED}` };
      }
      case "end key":
        await endPasskey(id, text("key"));
        return { said: "That passkey opens nothing any more." };
      case "end":
        await endSessions(id, { id: text("session") });
        return { said: "The session has ended." };
      case "others":
        return { said: `${await endSessions(id, { except: token })} other sessions have ended.` };
      case "remove":
        await removeOwn(id, text("password"));
        throw redirect("/sign-in", { headers: { "Set-Cookie": await sessionCookie("") } });
      case "everywhere":
        await endAccess(id, undefined);
        throw redirect("/sign-in", { headers: { "Set-Cookie": await sessionCookie("") } });
      default:
        throw new Failure("step", "There is no such step.", { status: 400, kept: "Nothing was changed." });
    }
  });
}

/** Everybody's own account: its password, and where it is signed in. */
export default function Account({ loaderData: { name, role, sessions, passkeys }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const said = actionData && "said" in actionData ? actionData.said : undefined;
  return (
    <Box
      component="main"
      id="content"
      sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 4, "& > *": { maxWidth: 860 } }}
    >
      <Typography variant="h1">{name}</Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {ROLES[role].name},{" "}
        <MuiLink component={Link} to="/settings">
          how it reads and what is sent
        </MuiLink>
        {role === "owner" && (
          <>
            {": "}
            <MuiLink component={Link} to="/people">
              the desk&apos;s people
            </MuiLink>
            {", "}
            <MuiLink component={Link} to="/audit">
              what everybody did
            </MuiLink>
          </>
        )}
      </Typography>
      <Outcome said={said} failure={failure} />
      <Typography variant="h2" sx={{ mt: 2, mb: 1 }}>
        Signed in
      </Typography>
      <Sessions sessions={sessions} />
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Password
      </Typography>
      <PasswordForm key={said} fields={failure?.fields} />
      <Typography variant="body2" sx={{ mt: 2 }}>
        <MuiLink component={Link} to="/account/factor">
          A second factor
        </MuiLink>{" "}
        keeps out whoever knows the password alone.
      </Typography>
      <Passkeys keys={passkeys} />
      <OwnData isReader={isReader({ role })} />
    </Box>
  );
}

/** What is kept of somebody is theirs to take, and a reader's to have removed. */
function OwnData({ isReader }: { isReader: boolean }) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        What is kept of you
      </Typography>
      <Typography variant="body2">
        <MuiLink href="/account/data.json">All of it, as a file</MuiLink>. The record holds nothing of readers.
      </Typography>
      {isReader && (
        <Form method="post">
          <Box sx={{ display: "flex", gap: 2, alignItems: "flex-end", mt: 1, maxWidth: 420 }}>
            <TextField name="password" type="password" label="Password" autoComplete="current-password" required />
            <Button type="submit" name="step" value="remove" variant="outlined" sx={{ flexShrink: 0 }}>
              Remove my account
            </Button>
          </Box>
        </Form>
      )}
    </>
  );
}

function Sessions({ sessions }: { sessions: readonly SessionLine[] }) {
  return (
    <>
      <Table aria-label="Where you are signed in">
        <HeadRow columns={["Browser", "Since, UTC", "Last used, UTC", ""]} />
        <TableBody>
          {sessions.map(({ id, device, createdAt, seenAt, own }) => (
            <TableRow key={id}>
              <TableCell component="th" scope="row">
                {device}
                {own && " (this one)"}
              </TableCell>
              <TableCell>{momentText(createdAt, "utc")}</TableCell>
              <TableCell>{momentText(seenAt, "utc")}</TableCell>
              <TableCell align="right">
                {!own && (
                  <Form method="post">
                    <input type="hidden" name="session" value={id} />
                    <Button
                      type="submit"
                      name="step"
                      value="end"
                      variant="text"
                      aria-label={`End the session on ${device}`}
                    >
                      End
                    </Button>
                  </Form>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Form method="post">
        <Box sx={{ display: "flex", gap: 2, mt: 1 }}>
          {sessions.length > 1 && (
            <Button type="submit" name="step" value="others">
              End all others
            </Button>
          )}
          <Button type="submit" name="step" value="everywhere" variant="text">
            Sign out everywhere
          </Button>
        </Box>
      </Form>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        Signing out everywhere ends private feeds, programs and notices as well. A session ends by itself when it was
        not used for twelve hours, and after thirty days in any case.
      </Typography>
    </>
  );
}

function PasswordForm({ fields }: { fields: Record<string, string> | undefined }) {
  const form = useRef<HTMLFormElement>(null);
  // What was typed is not left standing when it was refused.
  useEffect(() => form.current?.reset(), [fields]);
  return (
    <Form method="post" ref={form}>
      <Box sx={{ display: "grid", gap: 2, maxWidth: 420 }}>
        <TextField
          name="current"
          type="password"
          label="Present password"
          autoComplete="current-password"
          required
          error={!!fields?.current}
        />
        <TextField
          name="next"
          type="password"
          label="New password"
          autoComplete="new-password"
          required
          error={!!fields?.next}
          helperText={
            `At least ${SHORTEST_PASSWORD} characters, and none that many others have. Every other way in ` +
            `ends: sessions, feeds, programs and notices.`
          }
          slotProps={{ htmlInput: { minLength: SHORTEST_PASSWORD, maxLength: 200 } }}
        />
        <Box>
          <Button type="submit" name="step" value="password" variant="contained">
            Change it
          </Button>
        </Box>
      </Box>
    </Form>
  );
}

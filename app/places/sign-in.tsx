import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form, Link, redirect, useSearchParams } from "react-router";
import { SignInDto } from "#contracts/account";
import { readDto } from "#contracts/read";
import { beginOn, signIn, type SignedIn } from "../../server/accounts/accounts.ts";
import { FactorNeeded, proveFactor } from "../../server/accounts/factor.ts";
import { Failure } from "../../server/failure.ts";
import { attempt, placeOfThisSite, readForm, textField } from "../access.server.ts";
import { deviceCookie, deviceOf, sessionCookie } from "../cookies.server.ts";
import { Door } from "../parts/Door.tsx";
import { usePasskey } from "./account/usePasskey.ts";
import type { Route } from "./+types/sign-in.ts";

export const meta: Route.MetaFunction = () => [{ title: "Sign in - Even Compass" }];

export async function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const device = await deviceOf(request);
    const from = { ...(device ? { device } : {}), browser: request.headers.get("User-Agent") ?? "" };
    const factor = textField(form, "factor");
    if (factor !== "") {
      try {
        return await letIn(request, await beginOn(await proveFactor(factor, textField(form, "code")), from));
      } catch (error) {
        if (error instanceof Failure && error.code === "code") return { factor, wrong: error.sentence };
        throw error;
      }
    }
    const read = readDto(SignInDto, { email: form.get("email"), password: form.get("password") });
    if (!read.ok)
      throw new Failure("fields", "Mail address and password are needed.", { status: 400, fields: read.fields });
    try {
      return await letIn(request, await signIn(read.value, from));
    } catch (error) {
      if (error instanceof FactorNeeded) return { factor: error.factor, wrong: "" };
      throw error;
    }
  });
}

async function letIn(request: Request, { token, device }: SignedIn): Promise<never> {
  const headers = new Headers([["Set-Cookie", await sessionCookie(token)]]);
  if (device) headers.append("Set-Cookie", await deviceCookie(device));
  throw redirect(placeOfThisSite(new URL(request.url).searchParams.get("then")), { headers });
}

export default function SignIn({ actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const asked = actionData && "factor" in actionData ? actionData : undefined;
  if (asked)
    return (
      <Door>
        <Form method="post">
          <input type="hidden" name="factor" value={asked.factor} />
          <TextField
            name="code"
            label="Code of your second factor"
            autoComplete="one-time-code"
            autoFocus
            required
            helperText={asked.wrong || "Six digits, or one of your recovery codes."}
            error={asked.wrong !== ""}
            slotProps={{ htmlInput: { maxLength: 40 } }}
            sx={{ mb: 2.5 }}
          />
          <Button type="submit" variant="contained" fullWidth size="medium">
            Sign in
          </Button>
        </Form>
      </Door>
    );
  return (
    <Door>
      <Form method="post">
        <TextField
          name="email"
          type="email"
          label="Mail address"
          autoComplete="username"
          required
          error={!!failure?.fields?.email}
          helperText={failure?.fields?.email}
          sx={{ mb: 2 }}
        />
        <TextField
          name="password"
          type="password"
          label="Password"
          autoComplete="current-password"
          required
          error={!!failure?.fields?.password}
          helperText={failure?.fields?.password}
          sx={{ mb: 2.5 }}
        />
        {failure && (
          <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
            {failure.sentence} {failure.remedy}
          </Typography>
        )}
        <Button type="submit" variant="contained" fullWidth size="medium">
          Sign in
        </Button>
      </Form>
      <WithPasskey />
      <Typography variant="body2" sx={{ mt: 2 }}>
        <MuiLink component={Link} to="/reset">
          The password is forgotten
        </MuiLink>
        {". "}
        <MuiLink component={Link} to="/join">
          Join as a reader
        </MuiLink>
        .
      </Typography>
    </Door>
  );
}

/** Goes on to where the sign-in was asked for. */
function WithPasskey() {
  const [asked] = useSearchParams();
  const { show, sentence, busy } = usePasskey(() => {
    const then = asked.get("then");
    window.location.assign(then ? `/?then=${encodeURIComponent(then)}` : "/");
  });
  return (
    <>
      <Button variant="outlined" fullWidth size="medium" disabled={busy} onClick={() => void show()} sx={{ mt: 1.5 }}>
        With a passkey
      </Button>
      <Typography aria-live="polite" variant="body2">
        {sentence}
      </Typography>
    </>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form, redirect } from "react-router";
import { SignInDto } from "#contracts/account";
import { readDto } from "#contracts/read";
import { signIn } from "../../server/accounts/accounts.ts";
import { Failure } from "../../server/failure.ts";
import { attempt, placeOfThisSite, readForm } from "../access.server.ts";
import { deviceCookie, deviceOf, sessionCookie } from "../cookies.server.ts";
import { Compass } from "../parts/Compass.tsx";
import type { Route } from "./+types/sign-in.ts";

export const meta: Route.MetaFunction = () => [{ title: "Sign in - Even Compass" }];

export async function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const read = readDto(SignInDto, { email: form.get("email"), password: form.get("password") });
    if (!read.ok)
      throw new Failure("fields", "Mail address and password are needed.", { status: 400, fields: read.fields });
    const { token, device } = await signIn(read.value, {
      device: await deviceOf(request),
      browser: request.headers.get("User-Agent") ?? "",
    });
    const headers = new Headers([["Set-Cookie", await sessionCookie(token)]]);
    if (device) headers.append("Set-Cookie", await deviceCookie(device));
    throw redirect(placeOfThisSite(new URL(request.url).searchParams.get("then")), { headers });
  });
}

export default function SignIn({ actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  return (
    <Box component="main" id="content" sx={{ minHeight: "100vh", display: "grid", placeItems: "center", p: 3 }}>
      <Box sx={{ width: "100%", maxWidth: 340 }}>
        <Compass size={44} />
        <Typography variant="h1" sx={{ mt: 1.5 }}>
          Even Compass
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 3 }}>
          Top-down market outlooks, computed and kept to account.
        </Typography>
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
      </Box>
    </Box>
  );
}

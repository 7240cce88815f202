import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import QRCode from "qrcode";
import { beginFactor, endFactor, proposeFactor } from "../../../server/accounts/factor.ts";
import { Account } from "../../../server/database/models.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { failureText } from "../../parts/post.ts";
import type { Route } from "./+types/factor.ts";

export const meta: Route.MetaFunction = () => [{ title: "Second factor - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const account = await Account.findByPk(personIn(context).id, { rejectOnEmpty: true });
    if (account.totp) return { left: account.totp.recovery.length };
    const proposed = proposeFactor(account);
    const picture = await QRCode.toString(proposed.address, { type: "svg", margin: 2, errorCorrectionLevel: "M" });
    return { proposed, picture: `data:image/svg+xml;base64,${Buffer.from(picture).toString("base64")}` };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const { id } = personIn(context);
    const form = await readForm(request);
    if (textField(form, "step") === "end") {
      await endFactor(id, textField(form, "password"));
      return { ended: true };
    }
    return { codes: await beginFactor(id, textField(form, "seal"), textField(form, "code")) };
  });
}

/** A second factor: codes of six digits that an authenticator shows, and codes on paper in its place. */
export default function Factor({ loaderData, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const codes = actionData && "codes" in actionData ? actionData.codes : undefined;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 620, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Second factor
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {codes && (
        <Box role="status" sx={{ mb: 2 }}>
          <Typography>
            It is set up. Keep these recovery codes on paper: each is taken once in the place of a code, and they are
            told this once.
          </Typography>
          <Box component="ul" sx={{ fontFamily: "monospace", columns: 2 }}>
            {codes.map((code) => (
              <li key={code}>{code}</li>
            ))}
          </Box>
        </Box>
      )}
      {"left" in loaderData ? (
        <Form method="post">
          <Typography sx={{ mb: 2 }}>It is on, and {loaderData.left} recovery codes are left.</Typography>
          <TextField name="password" type="password" label="Password" autoComplete="current-password" required />
          <Button type="submit" name="step" value="end" variant="outlined" sx={{ mt: 2 }}>
            Give it up
          </Button>
        </Form>
      ) : (
        <Form method="post">
          <Typography sx={{ mb: 1 }}>
            Enter this secret into your authenticator, then the six digits it shows. With it nobody signs in who knows
            the password alone.
          </Typography>
          <Box
            component="img"
            src={loaderData.picture}
            alt="The secret as a picture, for an authenticator's camera; it stands below as letters"
            sx={{ width: 200, height: 200, display: "block", mb: 1 }}
          />
          <Typography sx={{ fontFamily: "monospace", overflowWrap: "anywhere", mb: 1 }}>
            {loaderData.proposed.secret.replace(/(.{4})(?=.)/g, "$1 ")}
          </Typography>
          <Typography variant="body2" sx={{ overflowWrap: "anywhere", mb: 2 }}>
            As an address: <a href={loaderData.proposed.address}>{loaderData.proposed.address}</a>
          </Typography>
          <input type="hidden" name="seal" value={loaderData.proposed.seal} />
          <TextField name="code" label="Six digits" autoComplete="one-time-code" required sx={{ maxWidth: 200 }} />
          <Box>
            <Button type="submit" variant="contained" sx={{ mt: 2 }}>
              Set it up
            </Button>
          </Box>
        </Form>
      )}
    </Box>
  );
}

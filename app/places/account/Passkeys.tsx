import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Form, useRevalidator } from "react-router";
import { momentText } from "../../parts/times.ts";
import { usePasskey } from "./usePasskey.ts";

interface Props {
  keys: readonly { id: string; name: string; createdAt: number; usedAt: number | null }[];
}

/** Passkeys of an account: one signs in without a password, and without a code. */
export function Passkeys({ keys }: Props) {
  const { revalidate } = useRevalidator();
  const { make, sentence, busy } = usePasskey(() => void revalidate());
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Passkeys
      </Typography>
      <Typography variant="body2" sx={{ maxWidth: 620 }}>
        A key that a device keeps and shows by your finger, face or number: with it you sign in without a password and
        without a code.
      </Typography>
      {keys.map(({ id, name, createdAt, usedAt }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="key" value={id} />
          {name}, made {momentText(createdAt, "utc")} UTC
          {usedAt !== null && `, used ${momentText(usedAt, "utc")} UTC`}{" "}
          <Button type="submit" name="step" value="end key" variant="text" aria-label={`End the passkey of ${name}`}>
            End it
          </Button>
        </Form>
      ))}
      <Button variant="outlined" disabled={busy} onClick={() => void make()} sx={{ mt: 1 }}>
        Make a passkey
      </Button>
      <Typography aria-live="polite" variant="body2" sx={{ mt: 0.5, minHeight: "1.5em" }}>
        {sentence}
      </Typography>
    </>
  );
}

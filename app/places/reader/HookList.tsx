import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { momentText } from "../../parts/times.ts";

interface Props {
  hooks: readonly { id: string; address: string; createdAt: number }[];
  /** Host of the stand-in for such programs, where there is one. */
  standIn: string | undefined;
  /** What a new one's messages are signed with, told this once. */
  secret: string | undefined;
}

/** Addresses of a reader's programs, which are told what the reader is told. */
export function HookList({ hooks, standIn, secret }: Props) {
  return (
    <>
      <Typography variant="body2" sx={{ maxWidth: 620 }}>
        What you chose above is posted to these addresses as JSON at once, whatever the hour, signed as Standard
        Webhooks says. {standIn && `On this machine http://${standIn}/ takes it for a try.`}
      </Typography>
      {secret && (
        <Typography component="p" sx={{ my: 1, fontFamily: "monospace", overflowWrap: "anywhere" }}>
          {secret}
        </Typography>
      )}
      {hooks.map(({ id, address, createdAt }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="hook" value={id} />
          <span style={{ overflowWrap: "anywhere" }}>{address}</span>, since {momentText(createdAt, "utc")} UTC{" "}
          <Button type="submit" name="step" value="end hook" variant="text" aria-label={`End ${address}`}>
            End it
          </Button>
        </Form>
      ))}
      <Box component={Form} method="post" sx={{ display: "flex", alignItems: "flex-end", gap: 2 }}>
        <TextField
          label="Address of your program"
          name="address"
          type="url"
          required
          sx={{ width: "100%", maxWidth: 420 }}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
        <Button type="submit" name="step" value="hook" variant="outlined">
          Tell it
        </Button>
      </Box>
    </>
  );
}

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Form, useSubmit } from "react-router";
import { momentText } from "../../parts/times.ts";
import { askForNotices, useNotices } from "./useNotices.ts";

interface Props {
  devices: readonly { id: string; name: string; createdAt: number }[];
  /** By which browsers' services know this desk. */
  publicKey: string;
  /** Whether there is a stand-in for a browser to try it on. */
  standIn: boolean;
}

/** Browsers that are notified of what the reader is told, also while no page is open. */
export function DeviceList({ devices, publicKey, standIn }: Props) {
  const can = useNotices();
  const submit = useSubmit();
  const [fault, setFault] = useState("");
  const ask = async () => {
    const asked = await askForNotices(publicKey);
    setFault("fault" in asked ? asked.fault : "");
    if ("subscription" in asked)
      await submit({ step: "push", subscription: asked.subscription }, { method: "post", preventScrollReset: true });
  };
  return (
    <>
      <Typography variant="body2" sx={{ maxWidth: 620 }}>
        What you chose above is shown by these browsers as well, also while no page of ours is open. Your quiet hours
        hold for them. {can === false && "The browser you use now cannot be notified."}
      </Typography>
      {devices.map(({ id, name, createdAt }) => (
        <Form method="post" key={id} preventScrollReset>
          <input type="hidden" name="device" value={id} />
          {name}, since {momentText(createdAt, "utc")} UTC{" "}
          <Button type="submit" name="step" value="end push" variant="text" aria-label={`End ${name}`}>
            End it
          </Button>
        </Form>
      ))}
      {fault && (
        <Alert severity="warning" sx={{ my: 1 }}>
          {fault}
        </Alert>
      )}
      <Form method="post" preventScrollReset>
        {/* It is there, and greyed, until scripts know: nothing moves under the finger. */}
        {can !== false && (
          <Button variant="outlined" disabled={!can} sx={{ mt: 1, mr: 2 }} onClick={() => void ask()}>
            Notify this browser
          </Button>
        )}
        {standIn && (
          <Button type="submit" name="step" value="push stand-in" variant="text" sx={{ mt: 1 }}>
            Try it on the stand-in of a browser
          </Button>
        )}
      </Form>
    </>
  );
}

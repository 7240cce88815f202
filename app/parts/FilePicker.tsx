import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useNavigate } from "react-router";
import { LARGEST_FILE } from "#contracts/market";
import { failureText, type FailureBody } from "./post.ts";

/** Sends a file as it is and goes on to the page that shows what was recognised in it. */
export function FilePicker() {
  const navigate = useNavigate();
  const [state, setState] = useState("");
  const send = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST_FILE)
      return setState(
        `${file.name} is larger than ${LARGEST_FILE / 1024 / 1024} MB. Split it by year; later files ` +
          `extend the market. Nothing was sent.`,
      );
    setState(`Sending ${file.name} ...`);
    try {
      const response = await fetch(`/uploads?name=${encodeURIComponent(file.name)}`, { method: "POST", body: file });
      const body = (await response.json()) as { upload?: string; failure?: FailureBody };
      if (body.upload) await navigate(`/library/import?upload=${body.upload}`);
      setState(body.failure ? failureText(body.failure) : "");
    } catch {
      setState("The file could not be sent: the server ended the connection. Choose it again; nothing was stored.");
    }
  };
  return (
    <>
      <Button component="label" variant="contained" sx={{ order: 1 }}>
        Import a file of bars
        <input
          type="file"
          accept=".csv,.txt,.json,text/csv,application/json"
          hidden
          onChange={(event) => void send(event.target.files?.[0])}
        />
      </Button>
      <Typography variant="body2" role="status" sx={{ order: 3 }}>
        {state}
      </Typography>
    </>
  );
}

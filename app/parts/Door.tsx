import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { failureText, type FailureBody } from "./post.ts";
import { Compass } from "./Compass.tsx";

/** What everybody sees who is not in yet: the house, and a form. */
export function Door({
  children,
  title = "Even Compass",
  says = SAYS,
}: {
  children: ReactNode;
  title?: string;
  says?: string;
}) {
  return (
    <Box component="main" id="content" sx={{ minHeight: "100vh", display: "grid", placeItems: "center", p: 3 }}>
      <Box sx={{ width: "100%", maxWidth: 340 }}>
        <Compass size={44} />
        <Typography variant="h1" sx={{ mt: 1.5 }}>
          {title}
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 3 }}>
          {says}
        </Typography>
        {children}
      </Box>
    </Box>
  );
}

const SAYS = "Top-down market outlooks, computed and kept to account.";

/** Why a form of the door was not taken. */
export function DoorFailure({ failure }: { failure: FailureBody | undefined }) {
  if (!failure) return null;
  return (
    <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
      {failureText(failure)}
    </Typography>
  );
}

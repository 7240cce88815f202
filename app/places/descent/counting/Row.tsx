import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

/** What is said at the left, its figure at the right. */
export function Row({ left, right, dim = false }: { left: ReactNode; right: ReactNode; dim?: boolean }) {
  return (
    <Box
      sx={{
        display: "flex",
        justifyContent: "space-between",
        gap: 1,
        py: 0.2,
        color: dim ? "text.secondary" : undefined,
      }}
    >
      <Typography variant="body2">{left}</Typography>
      <Typography variant="body2" sx={{ whiteSpace: "nowrap", textAlign: "right" }}>
        {right}
      </Typography>
    </Box>
  );
}

/** A part of the count's page that can be folded. */
export function Part({ title, open = false, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <Box component="details" open={open} sx={{ borderTop: 1, borderColor: "divider", mt: 0.75, pt: 0.5 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer", fontWeight: 600 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

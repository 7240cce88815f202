import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** The Sheet beside the charts; wider while something is written in it. */
export function SheetAside({ width, children }: { width: number; children: ReactNode }) {
  return (
    <Box
      component="aside"
      aria-label="Sheet"
      sx={{
        width,
        flexShrink: 0,
        bgcolor: "background.paper",
        borderLeft: 1,
        borderColor: "divider",
        overflowY: "auto",
        px: 2,
        py: 1.5,
      }}
    >
      {children}
    </Box>
  );
}

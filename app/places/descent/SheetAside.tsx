import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** The Sheet beside the charts; wider while something is written in it. */
export function SheetAside({ width, children }: { width: number; children: ReactNode }) {
  return (
    <Box
      component="aside"
      aria-label="Sheet"
      sx={{
        width: { xs: "100%", md: width },
        flexShrink: 0,
        bgcolor: "background.paper",
        borderLeft: { xs: 0, md: 1 },
        borderTop: { xs: 1, md: 0 },
        borderColor: "divider",
        overflowY: { xs: "visible", md: "auto" },
        px: 2,
        py: 1.5,
      }}
    >
      {children}
    </Box>
  );
}

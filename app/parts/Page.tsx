import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** A page that scrolls: a column of reading width or, with an aside, two columns. */
export function Page({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <Box sx={{ flex: 1, overflow: "auto", display: "flex", flexWrap: { xs: "wrap", md: "nowrap" } }}>
      <Box component="main" id="content" sx={{ flex: 1, minWidth: 0, px: { xs: 2, md: 4 }, py: 3 }}>
        <Box sx={{ maxWidth: 980 }}>{children}</Box>
      </Box>
      {aside && (
        <Box
          component="aside"
          sx={{
            width: { xs: "100%", md: 320 },
            flexShrink: 0,
            bgcolor: "background.paper",
            borderLeft: { md: 1 },
            borderColor: { md: "divider" },
            px: 2.5,
            py: 3,
          }}
        >
          {aside}
        </Box>
      )}
    </Box>
  );
}

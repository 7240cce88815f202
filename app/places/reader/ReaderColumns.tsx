import Box from "@mui/material/Box";
import type { ReactNode } from "react";

/** A page of a reader's in two columns; on a phone under each other. */
export function ReaderColumns({ children }: { children: ReactNode }) {
  return (
    <Box
      component="main"
      id="content"
      sx={{
        ...{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3, alignItems: "start" },
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) 350px" },
        gridTemplateRows: { md: "auto 1fr" },
        columnGap: 5,
      }}
    >
      {children}
    </Box>
  );
}

import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";

/** Where a file that waits is confirmed; what was said of the columns of the whole is so of its parts. */
export function partAddress(upload: string, columns: string | undefined): string {
  return `/library/import?${new URLSearchParams({ upload, ...(columns ? { columns } : {}) }).toString()}`;
}

interface Props {
  beside: readonly { id: string; name: string }[];
  columns: string | undefined;
}

/** The other markets of the same file that still wait to be imported. */
export function PartsBeside({ beside, columns }: Props) {
  if (beside.length === 0) return null;
  return (
    <Typography component="nav" aria-label="Other markets of this file" sx={{ mb: 2 }}>
      Of the same file there wait:{" "}
      {beside.map(({ id, name }, i) => (
        <span key={id}>
          {i > 0 && ", "}
          <MuiLink component={Link} to={partAddress(id, columns)}>
            {name}
          </MuiLink>
        </span>
      ))}
      .
    </Typography>
  );
}

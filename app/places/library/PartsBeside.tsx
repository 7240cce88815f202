import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";

/** The other markets of the same file that still wait to be imported. */
export function PartsBeside({ beside }: { beside: readonly { id: string; name: string }[] }) {
  if (beside.length === 0) return null;
  return (
    <Typography component="nav" aria-label="Other markets of this file" sx={{ mb: 2 }}>
      Of the same file there wait:{" "}
      {beside.map(({ id, name }, i) => (
        <span key={id}>
          {i > 0 && ", "}
          <MuiLink component={Link} to={`/library/import?upload=${id}`}>
            {name}
          </MuiLink>
        </span>
      ))}
      .
    </Typography>
  );
}

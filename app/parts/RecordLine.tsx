import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";

/**
 * Where the record ends, on every page readers see: whoever notes it down can tell later whether anything was changed.
 */
export function RecordLine({ number, sha256, keyId }: { number: number; sha256: string; keyId: string }) {
  if (number === 0) return null;
  return (
    <Typography variant="caption" component="p" color="text.secondary" sx={{ py: 1.5, overflowWrap: "anywhere" }}>
      The record stands at entry {number}, head {sha256}, signed by key {keyId}.{" "}
      <MuiLink href="/record/chain.json" rel="nofollow">
        Its chain, to keep
      </MuiLink>
      {", "}
      <MuiLink href="/record/record.json" rel="nofollow">
        all of it
      </MuiLink>
      .
    </Typography>
  );
}

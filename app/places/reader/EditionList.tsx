import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { EDITION_KINDS } from "#core/edition/blocks";
import type { FoundEdition } from "../../../server/readers/seen.ts";
import { useTimes } from "../../parts/useTimes.ts";

/** Editions under each other, each with what it is and when; one that is shown later says when. */
export function EditionList({ editions }: { editions: readonly FoundEdition[] }) {
  const { moment } = useTimes();
  return (
    <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0 }}>
      {editions.map(({ number, kind, title, marketTime, corrects, from, isOpen }) => (
        <Box component="li" key={number} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
          <MuiLink component={Link} to={`/outlooks/${number}`} underline="hover" sx={{ fontWeight: 600 }}>
            {isOpen ? title : `${EDITION_KINDS[kind].name}, edition ${number}`}
          </MuiLink>
          <Typography variant="body2" color="text.secondary">
            {isOpen
              ? [corrects === null ? EDITION_KINDS[kind].name : `Puts edition ${corrects} right`]
                  .concat(`edition ${number}`, moment(marketTime))
                  .join(", ")
              : `Your plan shows it from ${moment(from)} on`}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

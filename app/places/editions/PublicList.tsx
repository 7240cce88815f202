import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { countText } from "#core/marks/wording";
import type { PublicWords } from "../../../server/publishing/section.ts";

/** What readers will be able to see of each section, every word of the desk's that goes with it included. */
export function PublicList({ sections, spoken }: { sections: readonly PublicWords[]; spoken: number }) {
  if (sections.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="What becomes public"
      sx={{ borderTop: 1, borderBottom: 1, borderColor: "divider", py: 1, mb: 1.5 }}
    >
      <Typography variant="h3">What becomes public</Typography>
      <Typography variant="body2">Title, words, your name, and of each market:</Typography>
      {sections.map(({ market, bars, marks, levels, words }, i) => (
        <Box key={i} sx={{ mt: 0.75 }}>
          <Typography variant="body2">
            <strong>{market}</strong>: {countText(bars, "bar")}, {countText(marks, "mark")} as drawn,{" "}
            {countText(levels, "level")}
            {words.length > 0 ? ", and these words:" : "."}
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
            {words.map((text) => (
              <Typography key={text} component="li" variant="body2" sx={{ overflowWrap: "anywhere" }}>
                {text}
              </Typography>
            ))}
          </Box>
        </Box>
      ))}
      {spoken > 0 && (
        <Typography variant="body2" sx={{ mt: 0.75 }}>
          Your voice at {countText(spoken, "step")}.
        </Typography>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.75 }}>
        Notes of marks, hidden and dismissed ones, and who placed them stay at the desk.
      </Typography>
    </Box>
  );
}

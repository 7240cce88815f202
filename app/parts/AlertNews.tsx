import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Popover from "@mui/material/Popover";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { FiringLine } from "../../server/alerts/alerts.ts";
import { listenLive } from "./live.ts";
import { postJson } from "./post.ts";
import { momentText } from "./times.ts";

/** What alerts have told and nobody has looked at yet, on whatever page one is. */
export function AlertNews() {
  const [news, setNews] = useState<readonly FiringLine[]>([]);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const known = useRef<number>(undefined);
  useEffect(
    () =>
      listenLive(({ fired }) => {
        if (fired === known.current) return;
        known.current = fired;
        void fetch("/alerts/news")
          .then((response) => (response.ok ? response.json() : []))
          .then((lines: FiringLine[]) => setNews(lines))
          // The next one that fires asks again.
          .catch(() => undefined);
      }),
    [],
  );
  const close = () => {
    setAnchor(null);
    setNews([]);
    if (news[0]) void postJson("/alerts/news", { upTo: news[0].number });
  };
  return (
    <>
      <Box role="status" sx={{ display: "inline-flex" }}>
        {news.length > 0 && (
          <Button variant="contained" onClick={(event) => setAnchor(event.currentTarget)}>
            {news.length === 1 ? "1 alert" : `${news.length} alerts`}
          </Button>
        )}
      </Box>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
      >
        <Box sx={{ p: 1.5, width: 380 }}>
          {news.map(({ number, market, name, firedAt, says }) => (
            <Typography key={number} variant="body2" sx={{ borderBottom: 1, borderColor: "divider", py: 0.5 }}>
              <MuiLink component={Link} to={`/descent/${market}`} onClick={close}>
                {name}
              </MuiLink>
              : {says}{" "}
              <Box component="span" sx={{ color: "text.secondary" }}>
                {momentText(firedAt, "utc")} UTC
              </Box>
            </Typography>
          ))}
          <MuiLink component={Link} to="/alerts" onClick={close} variant="body2">
            All alerts
          </MuiLink>
        </Box>
      </Popover>
    </>
  );
}

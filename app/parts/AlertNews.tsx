import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Popover from "@mui/material/Popover";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { FiringLine } from "../../server/alerts/alerts.ts";
import { listenLive } from "./live.ts";
import { postJson } from "./post.ts";
import { momentText } from "./times.ts";

/** What alerts have told and nobody has looked at yet, on whatever page one is. */
export function AlertNews() {
  const queries = useQueryClient();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [fired, setFired] = useState<number>();
  useEffect(() => listenLive(({ fired: now }) => setFired(now)), []);
  const queryKey = ["/alerts/news", fired];
  // While an answer is on its way, or cannot be had, the one before stands: the next that fires asks again.
  const { data: news = [] } = useQuery<readonly FiringLine[]>({
    queryKey,
    enabled: fired !== undefined,
    placeholderData: keepPreviousData,
  });
  const close = () => {
    setAnchor(null);
    queries.setQueryData(queryKey, []);
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

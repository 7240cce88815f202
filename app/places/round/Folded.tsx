import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { rungText } from "#core/marks/wording";
import { isDue, type Stop } from "#core/round/walk";
import { Needle } from "../descent/rungs/Needle.tsx";
import { shortRung } from "./Board.tsx";
import type { Round } from "./useRound.ts";
import { cellText } from "./words.ts";

/** The board while it is walked: a narrow list, with the rungs of the market that is looked at. */
export function Folded({
  round,
  at,
  tradable,
  onGo,
}: {
  round: Round;
  at: Stop;
  tradable: readonly string[];
  onGo(stop: Stop): void;
}) {
  const current = useRef<HTMLDivElement>(null);
  useEffect(() => {
    void current.current?.scrollIntoView({ block: "nearest" });
  }, [at.market]);
  return (
    <Box
      component="nav"
      aria-label="Markets of the round"
      sx={{
        ...{ width: 172, flexShrink: 0, overflowY: "auto", borderRight: 1, borderColor: "divider" },
        // A phone goes on by the stops themselves.
        display: { xs: "none", md: "block" },
      }}
    >
      {round.rows.map((row) => {
        const here = row.id === at.market;
        const own = round.stops.filter(({ market }) => market === row.id);
        const seen = own.length > 0 && own.every(round.isLooked);
        const verdict = row.verdict?.verdict;
        return (
          <Box
            key={row.id}
            ref={here ? current : undefined}
            sx={{
              borderBottom: 1,
              borderColor: "divider",
              borderLeft: "3px solid",
              borderLeftColor: here ? "text.primary" : "transparent",
              bgcolor: here ? "background.paper" : undefined,
            }}
          >
            <Box
              component={ButtonBase}
              disableRipple
              onClick={() => own[0] && onGo(own[0])}
              aria-current={here ? "true" : undefined}
              sx={{
                display: "flex",
                justifyContent: "flex-start",
                width: "100%",
                minHeight: 26,
                alignItems: "center",
                gap: 0.5,
                font: "inherit",
                fontSize: "0.85rem",
                px: 1,
                color: seen && !here ? "text.secondary" : "text.primary",
                textAlign: "left",
                fontWeight: here ? 600 : 400,
              }}
            >
              <Box
                component="span"
                sx={{ flex: 1, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
              >
                {row.name}
              </Box>
              <Box
                component="span"
                sx={{
                  fontSize: "0.75rem",
                  fontStyle: verdict === "watch" ? "italic" : "normal",
                  fontWeight: verdict === "nothing" ? 400 : 600,
                }}
              >
                {verdict === undefined || verdict === "nothing" ? (seen ? "\u2013" : "") : verdict}
              </Box>
            </Box>
            {here && (
              <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", px: 0.5, pb: 0.5 }}>
                {tradable.map((rung) => {
                  const cell = round.cellOf({ market: row.id, rung });
                  const on = rung === at.rung;
                  return (
                    <Box
                      key={rung}
                      component={ButtonBase}
                      disableRipple
                      disabled={!cell || cell.close === undefined}
                      onClick={() => onGo({ market: row.id, rung })}
                      aria-label={`${rungText(rung)}: ${cellText(row, cell ?? null)}`}
                      aria-current={on ? "step" : undefined}
                      sx={{
                        display: "inline-flex",
                        alignItems: "center",
                        justifyContent: "center",
                        gap: 0.25,
                        minHeight: 26,
                        borderBottom: "2px solid",
                        borderColor: on ? "text.primary" : "transparent",
                        font: "inherit",
                        fontSize: "0.75rem",
                        whiteSpace: "nowrap",
                        px: 0,
                        color: "text.primary",
                        fontWeight: on ? 600 : 400,
                        position: "relative",
                      }}
                    >
                      {shortRung(rung)}
                      {cell && cell.close !== undefined && <Needle direction={cell.direction} />}
                      {cell && isDue(cell) && (
                        <Box
                          component="span"
                          sx={{
                            position: "absolute",
                            right: 3,
                            top: 3,
                            width: 4,
                            height: 4,
                            borderRadius: "50%",
                            bgcolor: "text.primary",
                          }}
                        />
                      )}
                    </Box>
                  );
                })}
              </Box>
            )}
          </Box>
        );
      })}
      {round.rows.length === 0 && <Typography>No market.</Typography>}
    </Box>
  );
}

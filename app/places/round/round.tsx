import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { boardOf } from "../../../server/desk/round.ts";
import { answer, personIn } from "../../access.server.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { Board } from "./Board.tsx";
import type { Route } from "./+types/round.ts";

export const meta: Route.MetaFunction = () => [{ title: "Round - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, () => boardOf(personIn(context).id));
}

/** Every market on every rung at a glance. */
export default function Round({ loaderData }: Route.ComponentProps) {
  return (
    <Box component="main" id="content" sx={{ flex: 1, overflow: "auto", px: { xs: 2, md: 3 }, py: 2 }}>
      <PageTitle
        aside={
          <Typography variant="body2" color="text.secondary">
            Arrow keys walk the board, Enter descends there. A ring marks a shift of structure in the last three bars.
          </Typography>
        }
      >
        The round
      </PageTitle>
      <Board key={loaderData.rungs.join(" ")} board={loaderData} />
    </Box>
  );
}

import Box from "@mui/material/Box";
import { Outlet, useParams } from "react-router";
import { readClock } from "../../server/feed/clock.ts";
import { firstMarket } from "../../server/desk/first.ts";
import { personIn, requireAnalyst } from "../access.server.ts";
import { FeedControl } from "../parts/FeedControl.tsx";
import { TopBar } from "../parts/TopBar.tsx";
import type { Route } from "./+types/desk.ts";

export const middleware: Route.MiddlewareFunction[] = [requireAnalyst];

export async function loader({ context }: Route.LoaderArgs) {
  const { id, name } = personIn(context);
  return { person: name, clock: await readClock(), market: await firstMarket(id) };
}

/** The frame of every place of the analyst's desk. */
export default function Desk({ loaderData: { person, clock, market } }: Route.ComponentProps) {
  const open = useParams().market ?? market;
  const places = [
    ...(open ? [{ to: `/descent/${open}`, name: "Descent" }] : []),
    { to: "/editions", name: "Editions" },
    { to: "/outlooks", name: "Readers" },
    { to: "/library", name: "Library" },
  ];
  return (
    <Box sx={{ display: "flex", flexDirection: "column", height: "100vh" }}>
      <TopBar places={places} person={person}>
        <FeedControl clock={clock} />
      </TopBar>
      <Outlet />
    </Box>
  );
}

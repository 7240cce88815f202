import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { QueryClientProvider } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { Outlet, useNavigate, useParams } from "react-router";
import { readClock } from "../../server/clock.ts";
import { firstMarket } from "../../server/desk/first.ts";
import { heldDrafts } from "../../server/publishing/held.ts";
import { personIn, requireAnalyst } from "../access.server.ts";
import { AlertNews } from "../parts/AlertNews.tsx";
import { newQueries } from "../parts/asked.ts";
import { FeedControl } from "../parts/FeedControl.tsx";
import { HeldDrafts } from "../parts/HeldDrafts.tsx";
import { useCommands } from "../parts/keys.ts";
import { TopBar } from "../parts/TopBar.tsx";
import type { Route } from "./+types/desk.ts";

export const middleware: Route.MiddlewareFunction[] = [requireAnalyst];

export async function loader({ context }: Route.LoaderArgs) {
  const { id, name } = personIn(context);
  return { person: name, clock: await readClock(), market: await firstMarket(id), held: await heldDrafts() };
}

/** What the frame shows hangs on no query: going from rung to rung of a page asks the server for nothing. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: {
  currentUrl: URL;
  nextUrl: URL;
  formMethod?: string;
  defaultShouldRevalidate: boolean;
}) {
  return formMethod || currentUrl.pathname !== nextUrl.pathname ? defaultShouldRevalidate : false;
}

/** Loaded when something is first looked for. */
const Palette = lazy(async () => ({ default: (await import("../parts/finding/Palette.tsx")).Palette }));

/** The frame of every place of the analyst's desk. */
export default function Desk({ loaderData: { person, clock, market, held } }: Route.ComponentProps) {
  const navigate = useNavigate();
  const [finding, setFinding] = useState(false);
  const params = useParams();
  const open = params.market ?? market;
  useCommands({ find: () => setFinding(true), keys: () => void navigate("/keys") });
  const places = [
    { to: "/round", name: "Round" },
    ...(open ? [{ to: `/descent/${open}`, name: "Descent" }] : []),
    { to: "/counts", name: "Counts" },
    { to: "/editions", name: "Editions" },
    { to: "/outlooks", name: "Readers" },
    { to: "/library", name: "Library" },
  ];
  const [queries] = useState(newQueries);
  return (
    <QueryClientProvider client={queries}>
      <Box sx={{ display: "flex", flexDirection: "column", height: "100vh" }}>
        <TopBar places={places} person={person}>
          <AlertNews />
          <FeedControl clock={clock} />
          <Button variant="text" onClick={() => setFinding(true)} title="Ctrl K">
            Find
          </Button>
        </TopBar>
        <HeldDrafts held={held} />
        <Outlet />
        {finding && (
          <Suspense>
            <Palette
              places={[
                ...places,
                { to: "/rungs", name: "Rungs" },
                { to: "/round/lists", name: "Lists" },
                { to: "/round/history", name: "Past rounds" },
                { to: "/round/evening", name: "Evening list" },
                { to: "/events", name: "Events" },
                { to: "/alerts", name: "Alerts" },
                { to: "/keys", name: "Keys" },
                { to: "/library/derive", name: "Make a market of others" },
              ]}
              onClose={() => setFinding(false)}
            />
          </Suspense>
        )}
      </Box>
    </QueryClientProvider>
  );
}

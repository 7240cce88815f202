import Box from "@mui/material/Box";
import { Outlet } from "react-router";
import { recordHead } from "../../../server/record/file.ts";
import { answer, personIn, requirePerson, worksAtDesk } from "../../access.server.ts";
import { RecordLine } from "../../parts/RecordLine.tsx";
import { TopBar } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/reader.ts";

export const middleware: Route.MiddlewareFunction[] = [requirePerson];

export function loader({ context }: Route.LoaderArgs) {
  const person = personIn(context);
  return answer(context, async () => ({ name: person.name, desk: worksAtDesk(person), head: await recordHead() }));
}

/** The frame of what subscribers see; an analyst who looks finds the way back to the desk. */
export default function Reader({ loaderData: { name, desk, head } }: Route.ComponentProps) {
  const more = desk ? [{ to: "/editions", name: "Desk" }] : [];
  return (
    <>
      <TopBar places={[{ to: "/outlooks", name: "Outlooks" }, ...more]} person={name} />
      <Outlet />
      <Box component="footer" sx={{ px: { xs: 2, md: 3 }, maxWidth: 1160, mx: "auto" }}>
        <RecordLine {...head} />
      </Box>
    </>
  );
}

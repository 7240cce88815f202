import Box from "@mui/material/Box";
import GlobalStyles from "@mui/material/GlobalStyles";
import { Outlet } from "react-router";
import { mastheadOf } from "../../../server/publishing/deskSettings.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { choicesOf } from "../../../server/readers/choices.ts";
import { recordHead } from "../../../server/record/file.ts";
import { answer, personIn, requirePerson, worksAtDesk } from "../../access.server.ts";
import { RecordLine } from "../../parts/RecordLine.tsx";
import { TopBar } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/reader.ts";

export const middleware: Route.MiddlewareFunction[] = [requirePerson];

export function loader({ context }: Route.LoaderArgs) {
  const person = personIn(context);
  return answer(context, async () => {
    const { zone, larger } = await choicesOf(person.id);
    const [head, masthead] = await Promise.all([readOnce(["head"], recordHead), readOnce(["masthead"], mastheadOf)]);
    return { desk: worksAtDesk(person), head, masthead, zone, larger };
  });
}

const PLACES = [
  { to: "/outlooks", name: "Outlooks" },
  { to: "/archive", name: "Archive" },
  { to: "/calendar", name: "Calendar" },
  { to: "/record", name: "Record" },
];

/** A page says nothing of who reads it: those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

/** The frame of what subscribers see; an analyst who looks finds the way back to the desk. */
export default function Reader({ loaderData: { desk, head, masthead, larger } }: Route.ComponentProps) {
  const more = desk ? [{ to: "/editions", name: "Desk" }] : [];
  return (
    <>
      {larger && <GlobalStyles styles={{ html: { fontSize: "118%" } }} />}
      <TopBar places={[...PLACES, ...more]} masthead={masthead} />
      <Outlet />
      <Box component="footer" sx={{ px: { xs: 2, md: 3 }, maxWidth: 1160, mx: "auto" }}>
        <RecordLine {...head} />
      </Box>
    </>
  );
}

import Box from "@mui/material/Box";
import GlobalStyles from "@mui/material/GlobalStyles";
import { Outlet } from "react-router";
import { may } from "#core/readers/roles";
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
    const { zone, larger } = person.reading ?? (await choicesOf(person.id));
    const [head, masthead] = await Promise.all([readOnce(["head"], recordHead), readOnce(["masthead"], mastheadOf)]);
    const places = [
      ...(may(person, "review") && !worksAtDesk(person) ? [{ to: "/reviews", name: "Drafts" }] : []),
      ...(may(person, "moderate") ? [{ to: "/questions", name: "Questions" }] : []),
      ...(worksAtDesk(person) ? [{ to: "/editions", name: "Desk" }] : []),
    ];
    return { places, head, masthead, zone, larger };
  });
}

const PLACES = [
  { to: "/outlooks", name: "Outlooks" },
  { to: "/archive", name: "Archive" },
  { to: "/calendar", name: "Calendar" },
  { to: "/record", name: "Record" },
];

/** The frame of what subscribers see: it says nothing of who reads. Others find the way to their work. */
export default function Reader({ loaderData: { places, head, masthead, larger } }: Route.ComponentProps) {
  return (
    <>
      {larger && <GlobalStyles styles={{ html: { fontSize: "118%" } }} />}
      <TopBar places={[...PLACES, ...places]} masthead={masthead} />
      <Outlet />
      <Box component="footer" sx={{ px: { xs: 2, md: 3 }, maxWidth: 1160, mx: "auto" }}>
        <RecordLine {...head} />
      </Box>
    </>
  );
}

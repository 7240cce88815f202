import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { useColorScheme } from "@mui/material/styles";
import type { ReactNode } from "react";
import { Form, Link, NavLink } from "react-router";
import { MASTHEAD, type Masthead } from "#core/edition/masthead";
import { SERIF } from "../theme/theme.ts";
import { Compass } from "./Compass.tsx";

interface Props {
  places: { to: string; name: string }[];
  /** Who is signed in; not said where the page is the same for many. */
  person?: string;
  /** Whose house it is, where that is not ours: of a desk's readers. */
  masthead?: Masthead;
  children?: ReactNode;
}

/** The line at the top of every page: the house, its places, and at the right what the place wants in sight. */
export function TopBar({ places, person, masthead = MASTHEAD, children }: Props) {
  // What a phone has no room for beside a desk's clock stands on the page of the account.
  const wide = children ? { display: { xs: "none", md: "inline-flex" } } : {};
  return (
    <Box
      component="header"
      sx={{
        display: "flex",
        alignItems: "center",
        flexWrap: "wrap",
        columnGap: children ? { xs: 1, md: 1.5, xl: 2.5 } : 2.5,
        rowGap: 0.5,
        px: 2,
        pt: { xs: 0.75, md: 0 },
        minHeight: 44,
        borderBottom: "1.5px solid",
        borderColor: "text.primary",
      }}
    >
      <MuiLink
        component={Link}
        to="/"
        underline="none"
        sx={({ vars }) => ({
          ...{ display: "flex", alignItems: "center", gap: 1, fontFamily: SERIF, fontWeight: 600, fontSize: "1.1rem" },
          color: vars?.palette.compass[masthead.pigment],
        })}
      >
        <Compass />
        {masthead.name}
      </MuiLink>
      <Box
        component="nav"
        aria-label="Places"
        sx={{
          ...{ display: "flex", columnGap: { xs: 1.5, sm: 2.25 } },
          ...(children
            ? { order: { xs: 1, md: 0 }, width: { xs: "100%", md: "auto" }, overflowX: { xs: "auto", md: "visible" } }
            : { flexWrap: "wrap" }),
        }}
      >
        {places.map(({ to, name }) => (
          <MuiLink
            key={to}
            component={NavLink}
            to={to}
            underline="none"
            sx={{
              py: 1.25,
              borderBottom: "2px solid transparent",
              "&.active": { fontWeight: 600, borderColor: "currentColor" },
            }}
          >
            {name}
          </MuiLink>
        ))}
      </Box>
      <Box sx={{ flex: 1 }} />
      {children}
      <Box sx={{ display: "inline-flex", ...wide }}>
        <SchemeButton />
      </Box>
      <MuiLink
        component={NavLink}
        to="/account"
        underline="none"
        {...(person === undefined ? {} : { "aria-label": `Account of ${person}`, title: person })}
        sx={{ "&.active": { fontWeight: 600 } }}
      >
        {person === undefined ? "Account" : initials(person)}
      </MuiLink>
      <Box sx={{ display: "inline-flex", ...wide }}>
        <SignOut />
      </Box>
    </Box>
  );
}

/** The first letters of a name: there is room for no more beside the clock. */
function initials(name: string): string {
  return name
    .split(/\s+/)
    .filter(Boolean)
    .map((part) => [...part][0])
    .slice(0, 3)
    .join("")
    .toUpperCase();
}

function SignOut() {
  return (
    <Form method="post" action="/sign-out">
      <Button type="submit" variant="text">
        Sign out
      </Button>
    </Form>
  );
}

function SchemeButton() {
  const { mode, systemMode, setMode } = useColorScheme();
  if (!mode) return null;
  const dark = (mode === "system" ? systemMode : mode) === "dark";
  return (
    <Button variant="text" onClick={() => setMode(dark ? "light" : "dark")}>
      {dark ? "Paper" : "Lamp"}
    </Button>
  );
}

/** A heading line of a page that is no chart. */
export function PageTitle({ children, aside }: { children: ReactNode; aside?: ReactNode }) {
  return (
    <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, flexWrap: "wrap", mb: 2 }}>
      <Typography variant="h1">{children}</Typography>
      {aside}
    </Box>
  );
}

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import NativeSelect from "@mui/material/NativeSelect";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { EDITION_KINDS, KIND_NAMES } from "#core/edition/blocks";
import { countText } from "#core/marks/wording";
import { sightOf } from "../../../server/accounts/plans.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { archiveSeen, soughtIn } from "../../../server/readers/archive.ts";
import { marketsSeen } from "../../../server/readers/marketSaid.ts";
import { answer, personIn } from "../../access.server.ts";
import { EditionList } from "./EditionList.tsx";
import type { Route } from "./+types/archive.ts";

export const meta: Route.MetaFunction = () => [{ title: "Archive - Even Compass" }];

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    const sought = soughtIn(new URL(request.url).searchParams);
    const [found, markets] = await Promise.all([
      readOnce(["archive", sought, sight], () => archiveSeen(sought, sight)),
      readOnce(["markets", sight], () => marketsSeen(sight)),
    ]);
    const kinds = KIND_NAMES.filter((kind) => sight.kinds.includes(kind));
    return { sought, ...found, kinds, markets };
  });
}

/** Everything that was published, found by its words, its kind and its market. */
export default function Archive({
  loaderData: { sought, editions, count, pages, kinds, markets },
}: Route.ComponentProps) {
  const { words, kind = "", market = "", page } = sought;
  const pageAt = (to: number) => `?${new URLSearchParams({ words, kind, market, page: String(to) })}`;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 860, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1" sx={{ mb: 1.5 }}>
        Archive
      </Typography>
      <Form role="search">
        <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "flex-end", gap: 2, mb: 2 }}>
          <TextField
            name="words"
            label="Words"
            defaultValue={words}
            sx={{ flex: "1 1 220px" }}
            slotProps={{ htmlInput: { maxLength: 200 } }}
          />
          <NativeSelect name="kind" defaultValue={kind} inputProps={{ "aria-label": "Kind" }}>
            <option value="">of every kind</option>
            {kinds.map((one) => (
              <option key={one} value={one}>
                {EDITION_KINDS[one].name}
              </option>
            ))}
          </NativeSelect>
          <NativeSelect name="market" defaultValue={market} inputProps={{ "aria-label": "Market" }}>
            <option value="">on every market</option>
            {markets.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </NativeSelect>
          <Button type="submit" variant="contained">
            Find
          </Button>
        </Box>
      </Form>
      <Typography variant="body2" role="status" sx={{ mb: 1 }}>
        {count === 0 ? NOTHING : `${countText(count, "edition")}${words ? ", the best first" : ", the newest first"}.`}
      </Typography>
      <EditionList editions={editions} />
      {pages > 1 && (
        <Typography variant="body2" component="nav" aria-label="Pages" sx={{ mt: 2 }}>
          {page > 1 && <MuiLink href={pageAt(page - 1)}>Newer</MuiLink>} Page {page} of {pages}{" "}
          {page < pages && <MuiLink href={pageAt(page + 1)}>Older</MuiLink>}
        </Typography>
      )}
    </Box>
  );
}

const NOTHING = "Nothing is found. Words of three letters and more are looked for, in what your plan shows.";

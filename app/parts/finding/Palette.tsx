import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { keyText } from "../keys.ts";
import { allOffers, found, type Offer } from "./offers.ts";
import { PLACE_WORDS } from "./otherWords.ts";

interface Props {
  places: readonly { to: string; name: string }[];
  onClose(): void;
}

const KINDS_OF: Record<Offer["group"], string> = {
  Rungs: "rung",
  Marks: "mark",
  Commands: "command",
  Markets: "market",
  Places: "place",
};
const ORDER = Object.keys(KINDS_OF);

/** Finds markets, rungs, marks, places and commands by what is typed, and goes there or does it. */
export function Palette({ places, onClose }: Props) {
  const navigate = useNavigate();
  // Without the list the rest can still be found.
  const { data: markets = [] } = useQuery<{ id: string; name: string }[]>({ queryKey: ["/finding"], staleTime: 0 });
  const [page] = useState(allOffers);
  const offers: Offer[] = [
    ...page,
    ...markets.map(({ id, name }): Offer => ({ group: "Markets", name, run: () => void navigate(`/descent/${id}`) })),
    ...markets.map(({ id, name }): Offer => ({
      group: "Places",
      name: `Library: ${name}`,
      run: () => void navigate(`/library/${id}`),
    })),
    ...markets.map(({ id, name }): Offer => ({
      group: "Places",
      name: `Day plan: ${name}`,
      also: "levels today from high to low prices",
      run: () => void navigate(`/round/${id}/plan`),
    })),
    ...places.map(({ to, name }): Offer => ({
      group: "Places",
      name,
      also: PLACE_WORDS[to] ?? "",
      run: () => void navigate(to),
    })),
  ];
  offers.sort((a, b) => ORDER.indexOf(a.group) - ORDER.indexOf(b.group));
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      transitionDuration={0}
      slotProps={{ paper: { "aria-label": "Find" } }}
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start" }, "& .MuiDialog-paper": { border: 1, mt: 10 } }}
    >
      <Autocomplete
        open
        disablePortal
        autoHighlight
        options={offers}
        filterOptions={(all, { inputValue }) => found(all, inputValue)}
        getOptionLabel={({ name }) => name}
        getOptionKey={({ group, name }) => `${group} ${name}`}
        noOptionsText="Nothing of that name."
        onChange={(_event, offer) => {
          onClose();
          offer?.run();
        }}
        onClose={(_event, reason) => reason === "escape" && onClose()}
        renderOption={({ key, ...props }, { group, name, key: shortcut }) => (
          <Box component="li" key={key} {...props} sx={{ display: "flex", gap: 2 }}>
            <span>{name}</span>
            <Typography variant="caption" color="text.secondary" sx={{ ml: "auto", whiteSpace: "nowrap" }}>
              {shortcut ? keyText(shortcut) : KINDS_OF[group]}
            </Typography>
          </Box>
        )}
        renderInput={(props) => (
          <TextField {...props} autoFocus label="Find" placeholder="a market, rung, mark, place or command" />
        )}
        slotProps={{
          paper: { sx: { boxShadow: "none" } },
          popper: {
            sx: { position: "static !important" as "static", transform: "none !important", width: "100% !important" },
          },
        }}
        sx={{ p: 2 }}
      />
    </Dialog>
  );
}

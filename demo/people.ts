/** Those who sign in to the demo; it listens on this machine only. */
export const PEOPLE = {
  owner: { email: "owner@meridian.example", name: "Maren Holt", password: "keel-and-compass-rose" },
  analyst: { email: "analyst@meridian.example", name: "Ines Quill", password: "lantern-harbour" },
  colleague: { email: "colleague@meridian.example", name: "Jorun Vale", password: "salt-and-slate" },
  reviewer: { email: "reviewer@meridian.example", name: "Edda Lune", password: "two-pairs-of-eyes" },
  moderator: { email: "moderator@meridian.example", name: "Oren Fell", password: "harbour-watch-at-six" },
  newcomer: { email: "newcomer@meridian.example", name: "Nell Arden", password: "first-light-at-sea" },
  subscriber: { email: "reader@meridian.example", name: "Tomas Brand", password: "tide-and-tin" },
} as const;

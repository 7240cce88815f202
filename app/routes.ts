import { index, layout, route, type RouteConfig } from "@react-router/dev/routes";

export default [
  index("places/home.ts"),
  route("sign-in", "places/sign-in.tsx"),
  route("sign-out", "places/sign-out.ts"),
  layout("places/desk.tsx", [
    route("library", "places/library/library.tsx"),
    route("library/import", "places/library/import.tsx"),
    route("library/derive", "places/library/derive.tsx"),
    route("library/:market", "places/library/market.tsx"),
    route("descent/:market", "places/descent/descent.tsx"),
    route("rungs", "places/rungs/rungs.tsx"),
    route("keys", "places/keys/keys.tsx"),
    route("editions", "places/editions/editions.tsx"),
    route("editions/:draft", "places/editions/compose.tsx"),
  ]),
  layout("places/desk-data.ts", [
    route("library/:market/export", "places/library/export.ts"),
    route("library/imports/:import/undo", "places/library/undo.ts"),
    route("uploads", "places/library/uploads.ts"),
    route("bars/:market/:rung", "places/descent/bars.ts"),
    route("live", "places/descent/live.ts"),
    route("descent/:market/picture", "places/descent/picture.ts"),
    route("descent/:market/sketches", "places/descent/sketches.ts"),
    route("descent/:market/steps", "places/descent/steps.ts"),
    route("descent/:market/scenarios", "places/descent/scenarios.ts"),
    route("finding", "places/finding.ts"),
    route("rungs/chosen", "places/descent/chosen.ts"),
    route("feed", "places/descent/feed.ts"),
    route("editions/:draft/save", "places/editions/save.ts"),
    route("editions/:draft/picture/:section", "places/editions/preview.ts"),
  ]),
  layout("places/reader/reader.tsx", [
    route("outlooks", "places/reader/outlooks.tsx"),
    route("outlooks/:number", "places/reader/outlook.tsx"),
  ]),
  layout("places/reader/reader-data.ts", [
    route("outlooks/:number/picture/:section", "places/reader/picture.ts"),
    route("outlooks/:number/edition.json", "places/reader/content.ts"),
  ]),
  route("*", "places/not-found.ts"),
] satisfies RouteConfig;

/** Folders are layers: an import may only go down. */
const LAYERS = ["core", "contracts", "chart", "server", "app", "demo", "commands"];

const up = LAYERS.map((layer, i) => ({
  name: `${layer}-imports-down`,
  severity: "error",
  from: { path: `^${layer}/`, pathNot: "\\.test\\.ts$" },
  to: {
    path: `^(${
      LAYERS.slice(i + 1)
        .filter((other) => !(layer === "app" && other === "server"))
        .join("|") || "nothing"
    })/`,
  },
}));

/** So are the folders of the server: none stands above and below another, not even by a type. */
const SERVER = [
  ...[
    "tasks",
    "pool",
    "pictures",
    "database",
    "http",
    "audit",
    "outbox",
    "accounts",
    "bars",
    "record",
    "desk",
    "watch",
    "events",
  ],
  ...["publishing", "readers", "delivery", "alerts", "scenarios", "round", "intake", "feed"],
];

const upServer = SERVER.map((folder, i) => ({
  name: `server-${folder}-imports-down`,
  severity: "error",
  from: { path: `^server/${folder}/`, pathNot: "\\.test\\.ts$" },
  to: { path: `^server/(${SERVER.slice(i + 1).join("|") || "nothing"})/` },
}));

/** A new folder has its place in the list above before it is imported from another. */
const placed = {
  name: "server-folders-are-placed",
  severity: "error",
  from: { path: "^server/" },
  to: { path: "^server/[^/]+/", pathNot: `^server/(${SERVER.join("|")})/` },
};

/** A migration says what it needs itself: code goes on, and it must stay what it was. */
const migrations = {
  name: "migrations-import-no-live-code",
  severity: "error",
  from: { path: "^server/database/migrations/" },
  to: { path: "^(core|server|contracts|chart|app)/" },
};

module.exports = {
  forbidden: [
    ...up,
    ...upServer,
    placed,
    migrations,
    {
      name: "core-is-alone",
      severity: "error",
      comment: "The core computes; it knows no platform, and of packages four that compute as well.",
      from: { path: "^core/", pathNot: "\\.test\\.ts$|^core/testing/" },
      to: {
        dependencyTypes: ["npm", "npm-dev", "core"],
        pathNot: "node_modules/(simple-statistics|pure-rand|node-diff3|d3-array|internmap)/",
      },
    },
    {
      name: "chart-is-pure",
      severity: "error",
      comment: "The chart's drawing knows neither React nor a page.",
      from: { path: "^chart/" },
      to: { path: "react|@mui" },
    },
    {
      name: "components-without-server",
      severity: "error",
      comment:
        "Only routes and *.server.ts reach the server (types are free): what they import is cut from the bundle.",
      from: { path: "^app/(canvas|parts|theme|worker)/" },
      to: { path: "^server/", dependencyTypesNot: ["type-only"] },
    },
    {
      name: "no-circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "node", "default"] },
    exclude: { path: "\\+types|virtual:" },
  },
};

import { KIND_NAMES } from "#core/edition/blocks";

const text = { type: "string" } as const;
const query = (name: string, description: string, schema: object = text) => ({
  name,
  in: "query",
  description,
  schema,
});
const inPath = (name: string, schema: object = text) => ({ name, in: "path", required: true, schema });
const inHead = (name: string) => ({ name, in: "header", required: true, schema: text });
const json = (description: string) => ({
  description,
  content: { "application/json": { schema: { type: "object" } } },
});
const problem = (description: string) => ({
  description,
  content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
});

const price = { type: "number" } as const;
const BARS = {
  type: "array",
  items: {
    type: "object",
    required: ["time", "open", "high", "low", "close"],
    properties: {
      time: { type: ["string", "integer"], description: "A text, or milliseconds since 1970." },
      ...{ open: price, high: price, low: price, close: price, volume: price },
    },
  },
};

/** What programs may ask, as an OpenAPI 3.1 document. */
const DOCUMENT = {
  openapi: "3.1.0",
  info: { title: "Even Compass", version: "1", description: "What a reader may see, and bars that come in." },
  security: [{ token: [] }],
  paths: {
    "/api/outlooks": {
      get: {
        summary: "Editions the token's account may open, the newest first (scope api).",
        parameters: [
          query("words", "Words that are looked for in what the plan shows."),
          query("kind", "One kind of edition.", { ...text, enum: KIND_NAMES }),
          query("market", "Id of a market."),
          query("page", "From 1.", { type: "integer", minimum: 1 }),
        ],
        responses: { 200: json("A page of them."), 304: { description: "As before." }, 401: problem("No token.") },
      },
    },
    "/api/outlooks/{number}": {
      get: {
        summary: "An edition as the account is shown it, and what became of its calls (scope api).",
        parameters: [inPath("number", { type: "integer", minimum: 1 })],
        responses: { 200: json("It."), 401: problem("No token."), 403: problem("Later."), 404: problem("None.") },
      },
    },
    "/api/payments": {
      post: {
        summary: "What the payment house says of a membership, signed by its secret (Standard Webhooks).",
        security: [],
        parameters: ["webhook-id", "webhook-timestamp", "webhook-signature"].map(inHead),
        requestBody: { required: true, content: { "application/json": { schema: { type: "object" } } } },
        responses: { 200: json("Whether it was new."), 400: problem("No such thing."), 401: problem("Not signed.") },
      },
    },
    "/api/bars/{market}": {
      post: {
        summary:
          "Bars of a market as CSV or JSON: whole or not at all, the same file twice changes nothing (scope bars).",
        parameters: [
          inPath("market"),
          {
            ...{ name: "Prefer", in: "header", schema: text },
            description:
              "respond-async, or wait=SECONDS (RFC 7240): how long the report is waited for; 15 s otherwise.",
          },
          query("zone", "IANA zone of times that say none."),
          query(
            "timeframe",
            "How long its bars are, as PT1M or P1D: needed of one or two, unless the market holds one length.",
          ),
          query("order", "Which comes first in dates that can be read both ways.", { ...text, enum: ["dmy", "mdy"] }),
          query("numbers", "What 38,250 is, where all numbers can be read both ways.", {
            ...text,
            enum: ["decimals", "thousands"],
          }),
          query("columns", "Which column is which, where the header does not say: time:1,open:2,high:3,low:4,close:5."),
          query("close", "Which prices are taken of a file that has an adjusted close too.", {
            ...text,
            enum: ["traded", "adjusted"],
          }),
          query("badRows", "What is done with rows that cannot be read.", { ...text, enum: ["refuse", "leaveOut"] }),
          query("differing", "Which stands where stored bars differ.", { ...text, enum: ["ask", "stored", "file"] }),
        ],
        requestBody: {
          required: true,
          content: { "text/csv": { schema: text }, "application/json": { schema: BARS } },
        },
        responses: {
          200: json("The report."),
          202: json("It goes on: the address to ask is in Location."),
          401: problem("No token."),
          422: problem("Nothing was stored."),
        },
      },
    },
    "/api/imports/{import}": {
      get: {
        summary: "How far an import is (step, share) or what became of it (report), for a day (scope bars).",
        parameters: [inPath("import")],
        responses: {
          200: json("Its state: working or stored."),
          401: problem("No token."),
          404: problem("None."),
          422: problem("It was refused: nothing was stored."),
        },
      },
    },
  },
  components: {
    securitySchemes: { token: { type: "http", scheme: "bearer" } },
    schemas: {
      Problem: {
        type: "object",
        required: ["type", "title", "status"],
        properties: { type: text, title: text, status: { type: "integer" }, detail: text, kept: text },
      },
    },
  },
};

export function loader() {
  return Response.json(DOCUMENT, { headers: { "Cache-Control": "public, max-age=3600" } });
}

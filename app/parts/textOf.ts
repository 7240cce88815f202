import { createElement as h, type ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { createRoutesStub } from "react-router";

/** What a component says, without its tags; for tests. */
export function textOf(element: ReactElement): string {
  const Stub = createRoutesStub([{ path: "/", Component: () => element }]);
  const html = renderToStaticMarkup(h(Stub, { initialEntries: ["/"] }));
  return html
    .replace(/<style[^>]*>.*?<\/style>/gs, "")
    .replace(/<[^>]+>/g, " ")
    .replace(/\s+/g, " ");
}

import { data } from "react-router";

export function loader() {
  throw data(null, { status: 404 });
}

/** Never shown: what the loader throws is. Only an address with a page answers with one. */
export default function NotFound() {
  return null;
}

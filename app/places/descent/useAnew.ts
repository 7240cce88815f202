import { useState } from "react";

/** What is loaded, changed by the page until it is loaded anew: another moment of the desk has other scenarios. */
export function useAnew<T>(loaded: T): [T, (value: T) => void] {
  const [held, setHeld] = useState({ loaded, value: loaded });
  if (held.loaded !== loaded) setHeld({ loaded, value: loaded });
  return [held.loaded === loaded ? held.value : loaded, (value) => setHeld({ loaded, value })];
}

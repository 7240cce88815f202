import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { startTransition, StrictMode } from "react";
import { hydrateRoot } from "react-dom/client";
import { HydratedRouter } from "react-router/dom";
import { Nonce } from "./nonce.ts";

const nonce = document.querySelector<HTMLScriptElement>("script[nonce]")?.nonce;
const cache = createCache({ key: "css", nonce });

startTransition(() => {
  hydrateRoot(
    document,
    <StrictMode>
      <CacheProvider value={cache}>
        <Nonce value={nonce}>
          <HydratedRouter />
        </Nonce>
      </CacheProvider>
    </StrictMode>,
  );
});

import "./styles/app.css";
import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ApiError } from "./api/client";
import { App } from "./App";

setNonce(document.querySelector<HTMLMetaElement>("meta[name=nonce]")?.content ?? "");

// What an answer changes is drawn in one go, not a task later than the state around it.
notifyManager.setScheduler(queueMicrotask);

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      retry: (tries, error) => tries < 2 && !(error instanceof ApiError && error.status >= 400),
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
}

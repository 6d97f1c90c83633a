import "./styles.css";

import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter } from "react-router";
import { RouterProvider } from "react-router/dom";

import { Refusal } from "./api/client";
import { keepFresh } from "./api/fresh";
import { App } from "./App";
import { ErrorBoundary } from "./app/ErrorBoundary";
import { focusFault } from "./app/focus";
import { PreferencesProvider } from "./app/preferences";
import { ToastProvider } from "./app/Toast";

const client = new QueryClient({
  mutationCache: new MutationCache({ onError: focusFault }),
  defaultOptions: {
    queries: {
      networkMode: "always",
      refetchOnWindowFocus: false,
      retry: (count, error) => !(error instanceof Refusal) && count < 1,
      retryDelay: 400,
    },
    mutations: { networkMode: "always" },
  },
});

keepFresh(client);

const router = createBrowserRouter([
  {
    path: "*",
    element: (
      <ToastProvider>
        <ErrorBoundary place="">
          <App />
        </ErrorBoundary>
      </ToastProvider>
    ),
  },
]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <PreferencesProvider>
        {/* Fields are kept in the address: what is typed must be there before the next key, not in a transition after it. */}
        <RouterProvider router={router} useTransitions={false} />
      </PreferencesProvider>
    </QueryClientProvider>
  </StrictMode>,
);

import "@fontsource/alegreya/400.css";
import "@fontsource/alegreya/400-italic.css";
import "@fontsource/alegreya/700.css";
import "@fontsource/alegreya-sans/400.css";
import "@fontsource/alegreya-sans/700.css";
import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { GlobalStyle } from "./GlobalStyle";
import { fetchPages, fetchPagesOf, routes } from "./routes";

// What an answer or a press changes is drawn before the next press can come: a tick must not stand as it was, even for the blink of a timer.
notifyManager.setScheduler(queueMicrotask);

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 5_000, refetchOnWindowFocus: true } },
});
const router = createBrowserRouter(routes);
const root = document.getElementById("root");
if (root) {
  await fetchPagesOf(window.location.pathname);
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <GlobalStyle />
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
  void fetchPages(); // the others while this one is looked at
}

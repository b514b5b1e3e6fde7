import "./index.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { BenchPage } from "./bench/BenchPage";
import { Shelf } from "./shelf/Shelf";
import { Lost } from "./ui/Lost";
import { Toasts } from "./ui/toast";

// Its texts and pictures come only to those who open it.
const GuidePage = lazy(() => import("./guide/GuidePage"));
const MachinesPage = lazy(() => import("./machines/MachinesPage"));
const guide = (
  <Suspense fallback={null}>
    <GuidePage />
  </Suspense>
);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root element");

createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* Messages have a row of their own under everything: they cover nothing. */}
      <div className="flex h-full flex-col">
        <div className="min-h-0 flex-1 overflow-y-auto">
          <BrowserRouter>
            <Routes>
              <Route path="/" element={<Shelf />} />
              <Route path="/design/:id" element={<BenchPage />} />
              <Route path="/design/:id/hand-over" element={<BenchPage handsOver />} />
              <Route
                path="/machines"
                element={
                  <Suspense fallback={null}>
                    <MachinesPage />
                  </Suspense>
                }
              />
              <Route path="/guide" element={guide} />
              <Route path="/guide/:name" element={guide} />
              <Route
                path="*"
                element={<Lost title="Nothing is here" sentence="This address leads nowhere." />}
              />
            </Routes>
          </BrowserRouter>
        </div>
        <Toasts />
      </div>
    </QueryClientProvider>
  </StrictMode>,
);

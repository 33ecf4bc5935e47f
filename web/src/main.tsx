import "@fontsource-variable/source-sans-3/wght.css";
import "@fontsource-variable/source-serif-4/wght.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { Gate } from "./api/session";
import { BenchPage } from "./bench/BenchPage";
import { Look } from "./look/Look";
import { ComparePage } from "./compare/ComparePage";
import { Finder } from "./finder/Finder";
import { SpringFinder } from "./finder/SpringFinder";
import { SurveyPage } from "./survey/SurveyPage";
import { WorkshopPage } from "./workshop/WorkshopPage";
import { RunPage } from "./run/RunPage";
import { Shelf } from "./shelf/Shelf";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 1000 } } });

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Look>
        <BrowserRouter>
          <Gate>
            <Routes>
              <Route path="/designs/:id" element={<BenchPage />} />
              <Route path="/designs/:id/changes" element={<ComparePage />} />
              <Route path="/designs/:id/survey" element={<SurveyPage />} />
              <Route path="/designs/:id/run" element={<RunPage />} />
              <Route path="/designs/:id/winding" element={<WorkshopPage />} />
              <Route path="/threads" element={<Finder />} />
              <Route path="/springs" element={<SpringFinder />} />
              <Route path="*" element={<Shelf />} />
            </Routes>
          </Gate>
        </BrowserRouter>
      </Look>
    </QueryClientProvider>
  </StrictMode>,
);

import "@fontsource-variable/source-sans-3/wght.css";
import "@fontsource-variable/source-serif-4/wght.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Route, Routes } from "react-router";
import { Gate } from "./api/session";
import { later } from "./look/Later";
import { Look } from "./look/Look";
import { Opening } from "./look/Opening";
import { Shelf } from "./shelf/Shelf";

const BenchPage = later(() => import("./bench/BenchPage").then((m) => m.BenchPage), <Opening />);
const NewDesignPage = later(
  () => import("./bench/BenchPage").then((m) => m.NewDesignPage),
  <Opening />,
);
const GuidePage = later(() => import("./guide/GuidePage").then((m) => m.GuidePage), <Opening />);
const VerificationPage = later(
  () => import("./verification/VerificationPage").then((m) => m.VerificationPage),
  <Opening />,
);
const StartPage = later(() => import("./start/StartPage").then((m) => m.StartPage), <Opening />);
const ComparePage = later(
  () => import("./compare/ComparePage").then((m) => m.ComparePage),
  <Opening />,
);
const SurveyPage = later(
  () => import("./survey/SurveyPage").then((m) => m.SurveyPage),
  <Opening />,
);
const RunPage = later(() => import("./run/RunPage").then((m) => m.RunPage), <Opening />);
const HandOverPage = later(() => import("./handover/HandOverPage").then((m) => m.HandOverPage));
const WorkshopPage = later(
  () => import("./workshop/WorkshopPage").then((m) => m.WorkshopPage),
  <Opening />,
);
const Finder = later(() => import("./finder/Finder").then((m) => m.Finder));
const SpringFinder = later(() => import("./finder/SpringFinder").then((m) => m.SpringFinder));

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 1000 } } });

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Look>
        <BrowserRouter>
          <Gate>
            <Routes>
              <Route path="/new" element={<StartPage />} />
              <Route path="/guide" element={<GuidePage />} />
              <Route path="/guide/:walk" element={<GuidePage />} />
              <Route path="/verification" element={<VerificationPage />} />
              <Route path="/new/:start" element={<NewDesignPage />} />
              <Route path="/designs/:id" element={<BenchPage />} />
              <Route path="/designs/:id/changes" element={<ComparePage />} />
              <Route path="/designs/:id/survey" element={<SurveyPage />} />
              <Route path="/designs/:id/run" element={<RunPage />} />
              <Route path="/designs/:id/winding" element={<WorkshopPage />} />
              <Route path="/designs/:id/hand-over" element={<HandOverPage />} />
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

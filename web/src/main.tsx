import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./theme/theme.scss";
import { Asking } from "./api/asking";
import { Problem } from "./api/client";
import { remembering } from "./api/remember";
import { Inside, Shell, Start } from "./app/Shell";
import { PairPage } from "./app/PairPage";
import { TrustPage } from "./app/TrustPage";
import { Broken } from "./app/Empty";

const queries = new Asking({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      networkMode: "always", // the server is in the house: it is asked, whatever the browser thinks of the line
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status >= 400),
    },
  },
});

// Each page's own code is loaded when it is first opened, and the others' when the first
// one stands: a server that is gone later takes no page away.
const pages = {
  DishesPage: async () => ({ Component: (await import("./pages/dishes/DishesPage")).DishesPage }),
  VersionsPage: async () => ({ Component: (await import("./pages/dishes/VersionsPage")).VersionsPage }),
  ComponentsPage: async () => ({
    Component: (await import("./pages/components/ComponentsPage")).ComponentsPage,
  }),
  ComponentPage: async () => ({
    Component: (await import("./pages/components/ComponentPage")).ComponentPage,
  }),
  PrepPage: async () => ({ Component: (await import("./pages/prep/PrepPage")).PrepPage }),
  SheetPage: async () => ({ Component: (await import("./pages/prep/SheetPage")).SheetPage }),
  LabelsPage: async () => ({ Component: (await import("./pages/prep/LabelsPage")).LabelsPage }),
  IngredientsPage: async () => ({
    Component: (await import("./pages/prep/IngredientsPage")).IngredientsPage,
  }),
  ServicesPage: async () => ({ Component: (await import("./pages/prep/ServicesPage")).ServicesPage }),
  FirePage: async () => ({ Component: (await import("./pages/fire/FirePage")).FirePage }),
  FireSheetPage: async () => ({ Component: (await import("./pages/fire/FireSheetPage")).FireSheetPage }),
  RehearsePage: async () => ({ Component: (await import("./pages/fire/RehearsePage")).RehearsePage }),
  AmountsPage: async () => ({ Component: (await import("./pages/back/AmountsPage")).AmountsPage }),
  BackPage: async () => ({ Component: (await import("./pages/back/BackPage")).BackPage }),
  ComparePage: async () => ({ Component: (await import("./pages/back/ComparePage")).ComparePage }),
  NightPage: async () => ({ Component: (await import("./pages/back/NightPage")).NightPage }),
  TrainPage: async () => ({ Component: (await import("./pages/train/TrainPage")).TrainPage }),
  TrainedPage: async () => ({ Component: (await import("./pages/train/TrainedPage")).TrainedPage }),
  ReadPage: async () => ({ Component: (await import("./pages/components/ReadPage")).ReadPage }),
  MealPage: async () => ({ Component: (await import("./pages/meal/MealPage")).MealPage }),
  LogPage: async () => ({ Component: (await import("./pages/safety/LogPage")).LogPage }),
  PassPage: async () => ({ Component: (await import("./pages/live/PassPage")).PassPage }),
  SectionPage: async () => ({ Component: (await import("./pages/live/SectionPage")).SectionPage }),
  BoardPage: async () => ({ Component: (await import("./pages/live/BoardPage")).BoardPage }),
  FloorPage: async () => ({ Component: (await import("./pages/live/FloorPage")).FloorPage }),
  KitchenPage: async () => ({ Component: (await import("./pages/kitchen/KitchenPage")).KitchenPage }),
};

const router = createBrowserRouter([
  {
    path: "/",
    element: <Inside />,
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
    children: [
      { path: "pass", lazy: pages.PassPage },
      { path: "section/:section", lazy: pages.SectionPage },
      { path: "board", lazy: pages.BoardPage },
      { path: "floor", lazy: pages.FloorPage },
    ],
  },
  { path: "/pair", element: <PairPage />, errorElement: <Broken /> },
  { path: "/trust", element: <TrustPage />, errorElement: <Broken /> },
  {
    path: "/",
    element: <Shell />,
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <Start /> },
      { path: "dishes", lazy: pages.DishesPage },
      { path: "dishes/:id", lazy: pages.DishesPage },
      { path: "dishes/:id/versions", lazy: pages.VersionsPage },
      { path: "components", lazy: pages.ComponentsPage },
      { path: "components/read", lazy: pages.ReadPage },
      { path: "components/:id", lazy: pages.ComponentPage },
      { path: "prep", lazy: pages.PrepPage },
      { path: "prep/sheet/:section", lazy: pages.SheetPage },
      { path: "prep/labels", lazy: pages.LabelsPage },
      { path: "prep/ingredients", lazy: pages.IngredientsPage },
      { path: "prep/services", lazy: pages.ServicesPage },
      { path: "prep/temperatures", lazy: pages.LogPage },
      { path: "fire", lazy: pages.FirePage },
      { path: "fire/sheet", lazy: pages.FireSheetPage },
      { path: "fire/rehearse", lazy: pages.RehearsePage },
      { path: "fire/train", lazy: pages.TrainPage },
      { path: "fire/train/:id", lazy: pages.TrainedPage },
      { path: "meal", lazy: pages.MealPage },
      { path: "back", lazy: pages.BackPage },
      { path: "back/amounts", lazy: pages.AmountsPage },
      { path: "back/beside", lazy: pages.ComparePage },
      { path: "back/:id", lazy: pages.NightPage },
      { path: "kitchen", lazy: pages.KitchenPage },
      { path: "*", element: <Start /> },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <PersistQueryClientProvider client={queries} persistOptions={remembering}>
        <RouterProvider router={router} />
      </PersistQueryClientProvider>
    </StrictMode>,
  );
  window.setTimeout(() => {
    for (const load of Object.values(pages)) void load().catch(() => undefined); // it is tried again when opened
  }, 2000);
}

// The shell is there without a server, where the browser trusts it; where it does not, a screen that was loaded goes on, and Trust says
// why.
if (import.meta.env.PROD && "serviceWorker" in navigator && window.isSecureContext)
  void navigator.serviceWorker.register("/sw.js").catch(() => undefined);

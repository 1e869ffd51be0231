import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./theme/theme.scss";
import { Problem } from "./api/client";
import { Shell } from "./app/Shell";
import { Broken } from "./app/Empty";
import { Later } from "./app/Later";
import { DishesPage } from "./pages/dishes/DishesPage";
import { ComponentPage } from "./pages/components/ComponentPage";
import { FirePage } from "./pages/fire/FirePage";
import { FireSheetPage } from "./pages/fire/FireSheetPage";
import { IngredientsPage } from "./pages/prep/IngredientsPage";
import { LabelsPage } from "./pages/prep/LabelsPage";
import { PrepPage } from "./pages/prep/PrepPage";
import { ServicesPage } from "./pages/prep/ServicesPage";
import { SheetPage } from "./pages/prep/SheetPage";
import { KitchenPage } from "./pages/kitchen/KitchenPage";
import { ComponentsPage } from "./pages/components/ComponentsPage";
import { VersionsPage } from "./pages/dishes/VersionsPage";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status >= 400),
    },
  },
});

const router = createBrowserRouter([
  {
    path: "/",
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Navigate to="/dishes" replace /> },
      { path: "dishes", element: <DishesPage /> },
      { path: "dishes/:id", element: <DishesPage /> },
      { path: "dishes/:id/versions", element: <VersionsPage /> },
      { path: "components", element: <ComponentsPage /> },
      { path: "components/:id", element: <ComponentPage /> },
      { path: "prep", element: <PrepPage /> },
      { path: "prep/sheet/:section", element: <SheetPage /> },
      { path: "prep/labels", element: <LabelsPage /> },
      { path: "prep/ingredients", element: <IngredientsPage /> },
      { path: "prep/services", element: <ServicesPage /> },
      { path: "fire", element: <FirePage /> },
      { path: "fire/sheet", element: <FireSheetPage /> },
      { path: "pass", element: <Later screen="pass" /> },
      { path: "back", element: <Later screen="back" /> },
      { path: "kitchen", element: <KitchenPage /> },
      { path: "*", element: <Navigate to="/dishes" replace /> },
    ],
  },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}

import "@fontsource-variable/source-sans-3";
import "@fontsource/source-serif-4/600.css";
import "./kit/base.css";
import "./paper.css";
import { QueryClient } from "@tanstack/react-query";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { ConfigProvider } from "antd";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, Outlet, RouterProvider } from "react-router";
import { carry, keepCarried } from "./api/carry";
import { Problem } from "./api/client";
import { Announcer } from "./kit/Announcer";
import { theme } from "./kit/theme";
import { layOutTokens } from "./kit/tokens";
import { useLive } from "./live/useLive";
import { SessionGate, useSession } from "./people/SessionGate";
import { STAGES } from "./worklists/MoneyLine";

const Office = lazy(() => import("./Office"));
const WorklistPage = lazy(() => import("./worklists/WorklistPage"));
const JobPage = lazy(() => import("./sheet/JobPage"));
const QuotePage = lazy(() => import("./quoting/QuotePage"));
const CallerPage = lazy(() => import("./calls/CallerPage"));
const NewCallerPage = lazy(() => import("./calls/NewCallerPage"));
const ChecklistEditorPage = lazy(() => import("./checklists/ChecklistEditorPage"));
const TalkEditorPage = lazy(() => import("./calls/TalkEditorPage"));
const CustomersPage = lazy(() => import("./customers/CustomersPage"));
const ImportPage = lazy(() => import("./importing/ImportPage"));
const FaultsPage = lazy(() => import("./figures/FaultsPage"));
const ToDosPage = lazy(() => import("./todos/ToDosPage"));
const PartsWantedPage = lazy(() => import("./partswanted/PartsWantedPage"));
const StoresPage = lazy(() => import("./stores/StoresPage"));
const BooksPage = lazy(() => import("./books/BooksPage"));
const SettingsPage = lazy(() => import("./settings/SettingsPage"));
const FollowUpPage = lazy(() => import("./quoting/FollowUpPage"));
const CustomerPage = lazy(() => import("./jobpages/CustomerPage"));
const OfferPage = lazy(() => import("./offers/OfferPage"));
const MailStandInPage = lazy(() => import("./mail/MailStandInPage"));
const HoursPage = lazy(() => import("./field/HoursPage"));
const CameInLatePage = lazy(() => import("./field/CameInLatePage"));
const DayPage = lazy(() => import("./field/DayPage"));
const PasswordPage = lazy(() => import("./people/PasswordPage"));
const PlannerPage = lazy(() => import("./planning/PlannerPage"));
const pocketDay = () => import("./field/PocketDay");
const PocketDay = lazy(pocketDay);
const PocketWeek = lazy(() => import("./field/PocketWeek"));
const PocketVan = lazy(() => import("./stores/PocketVan"));
const PocketVisit = lazy(() => import("./field/PocketVisit"));

/** Everybody begins where their work is. */
function Home() {
  const { person } = useSession();
  const start = {
    office: "/worked",
    owner: "/worked",
    bookkeeper: "/books/journal",
    technician: "/pocket",
    customer: "/",
    program: "/",
  };
  return <Navigate to={start[person.role]} replace />;
}

function NoSuchPage() {
  return (
    <main className="blank">
      <h1>There is nothing at this address</h1>
      <p>
        Go to <a href="/">the start</a>, or press / and type a name or a number.
      </p>
    </main>
  );
}

/** Technicians have their pocket page and nothing else; the office has everything else. */
function OnlyFor({ field }: { field: boolean }) {
  const { person, now } = useSession();
  useLive(now.slice(0, 10));
  return (person.role === "technician") === field ? <Outlet /> : <Navigate to="/" replace />;
}

const router = createBrowserRouter([
  {
    path: "/password/:secret",
    element: (
      <Suspense fallback={<div className="blank" aria-busy="true" />}>
        <PasswordPage />
      </Suspense>
    ),
  },
  {
    path: "/work/:token",
    element: (
      <Suspense fallback={<div className="blank" aria-busy="true" />}>
        <CustomerPage />
      </Suspense>
    ),
  },
  {
    path: "/offer/:token",
    element: (
      <Suspense fallback={<div className="blank" aria-busy="true" />}>
        <OfferPage />
      </Suspense>
    ),
  },
  {
    element: (
      <SessionGate>
        <Suspense fallback={<div className="blank" aria-busy="true" />}>
          <Outlet />
        </Suspense>
      </SessionGate>
    ),
    children: [
      { path: "/", element: <Home /> },
      {
        element: <OnlyFor field={true} />,
        children: [
          { path: "/pocket", element: <PocketDay /> },
          { path: "/pocket/week/:monday", element: <PocketWeek /> },
          { path: "/pocket/van", element: <PocketVan /> },
          { path: "/pocket/:id", element: <PocketVisit /> },
        ],
      },
      {
        element: <OnlyFor field={false} />,
        children: [
          {
            element: <Office />,
            children: [
              { path: "/quotes/new", element: <QuotePage /> },
              { path: "/settings", element: <SettingsPage /> },
              { path: "/quotes/follow-up", element: <FollowUpPage /> },
              { path: "/quotes/:number", element: <QuotePage /> },
              { path: "/jobs/:number", element: <JobPage key="job" by="job" /> },
              { path: "/invoices/:number", element: <JobPage key="invoice" by="invoice" /> },
              { path: "/people/:id/days/:day", element: <DayPage /> },
              { path: "/hours/:monday?", element: <HoursPage /> },
              { path: "/came-in-late", element: <CameInLatePage /> },
              { path: "/planner/:day?", element: <PlannerPage /> },
              { path: "/customers", element: <CustomersPage /> },
              { path: "/customers/new", element: <NewCallerPage /> },
              { path: "/customers/:id", element: <CallerPage /> },
              { path: "/imports/:id?", element: <ImportPage /> },
              { path: "/figures/faults", element: <FaultsPage /> },
              { path: "/mail-stand-in", element: <MailStandInPage /> },
              { path: "/to-dos", element: <ToDosPage /> },
              { path: "/parts-wanted", element: <PartsWantedPage /> },
              { path: "/stores", element: <StoresPage /> },
              { path: "/checklists/:id?", element: <ChecklistEditorPage /> },
              { path: "/fault-talks/:kind?", element: <TalkEditorPage /> },
              { path: "/books", element: <Navigate to="/books/journal" replace /> },
              { path: "/books/journal", element: <BooksPage /> },
              { path: "/books/:code", element: <BooksPage /> },
              ...STAGES.map((stage) => ({
                path: `/${stage}/:row?`,
                element: <WorklistPage key={stage} stage={stage} />,
              })),
            ],
          },
        ],
      },
      { path: "*", element: <NoSuchPage /> },
    ],
  },
]);

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (failures, error) => !(error instanceof Problem && error.status >= 400) && failures < 2,
      staleTime: 2_000,
      // What cannot be read is said at once, not held until there is a network.
      networkMode: "always",
    },
  },
});

if (window.location.pathname === "/pocket") {
  // On a slow line it comes while who is signed in is still asked for.
  void pocketDay().catch(() => undefined);
}
keepCarried(queryClient);
layOutTokens();
createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <ConfigProvider theme={theme} button={{ autoInsertSpace: false }}>
      <PersistQueryClientProvider client={queryClient} persistOptions={carry}>
        <RouterProvider router={router} />
      </PersistQueryClientProvider>
      <Announcer />
    </ConfigProvider>
  </StrictMode>,
);

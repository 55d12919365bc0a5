import "@fontsource-variable/source-sans-3";
import "@fontsource/source-serif-4/600.css";
import "./kit/base.css";
import "./kit/phone.css";
import { QueryClient, usePrefetchQuery } from "@tanstack/react-query";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { type ComponentType, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, Outlet, RouterProvider } from "react-router";
import { carry, keepCarried } from "./api/carry";
import { Problem } from "./api/client";
import { queries } from "./api/queries";
import { Announcer } from "./kit/Announcer";
import { Coming } from "./kit/Coming";
import { NotShown } from "./kit/NotShown";
import { layOutTokens } from "./kit/tokens";
import { withLook } from "./kit/withLook";
import { useLive } from "./live/useLive";
import { SessionGate, useSession } from "./people/SessionGate";
import { STAGES, type Stage } from "./worklists/MoneyLine";

/** Where a page comes from: it and what stands around it are fetched side by side, while who is signed in is asked for. */
const page = (load: () => Promise<{ default: ComponentType }>) => async () => ({
  Component: (await load()).default,
});

const worklist = (stage: Stage) => async () => {
  const { default: WorklistPage } = await import("./worklists/WorklistPage");
  return { Component: () => <WorklistPage stage={stage} /> };
};

const jobSheet = (by: "job" | "invoice") => async () => {
  const { default: JobPage } = await import("./sheet/JobPage");
  return { Component: () => <JobPage by={by} /> };
};

const waiting = <div className="blank" aria-busy="true" />;

const notShown = (
  <main>
    <NotShown />
  </main>
);

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
  const { person, now, told } = useSession();
  useLive(now.slice(0, 10), told);
  return (person.role === "technician") === field ? (
    <>
      <Coming />
      <Outlet />
    </>
  ) : (
    <Navigate to="/" replace />
  );
}

/** While the office's pages are fetched, what each of them waits for is asked for. */
function OfficeComes() {
  usePrefetchQuery(queries.choices);
  return waiting;
}

const router = createBrowserRouter([
  {
    path: "/password/:secret",
    hydrateFallbackElement: waiting,
    errorElement: notShown,
    lazy: page(withLook(() => import("./people/PasswordPage"))),
  },
  {
    path: "/work/:token",
    hydrateFallbackElement: waiting,
    errorElement: notShown,
    lazy: page(withLook(() => import("./jobpages/CustomerPage"))),
  },
  {
    path: "/offer/:token",
    hydrateFallbackElement: waiting,
    errorElement: notShown,
    lazy: page(withLook(() => import("./offers/OfferPage"))),
  },
  {
    element: (
      <SessionGate>
        <Outlet />
      </SessionGate>
    ),
    errorElement: notShown,
    children: [
      { path: "/", element: <Home /> },
      {
        element: <OnlyFor field={true} />,
        hydrateFallbackElement: waiting,
        children: [
          { path: "/pocket", lazy: page(() => import("./field/PocketDay")) },
          { path: "/pocket/week/:monday", lazy: page(withLook(() => import("./field/PocketWeek"))) },
          { path: "/pocket/van", lazy: page(withLook(() => import("./stores/PocketVan"))) },
          { path: "/pocket/:id", lazy: page(withLook(() => import("./field/PocketVisit"))) },
        ],
      },
      {
        element: <OnlyFor field={false} />,
        hydrateFallbackElement: <OfficeComes />,
        children: [
          {
            lazy: page(withLook(() => import("./Office"))),
            children: [
              {
                errorElement: <NotShown />,
                children: [
                  { path: "/quotes/new", lazy: page(() => import("./quoting/QuotePage")) },
                  { path: "/settings", lazy: page(() => import("./settings/SettingsPage")) },
                  { path: "/quotes/follow-up", lazy: page(() => import("./quoting/FollowUpPage")) },
                  { path: "/quotes/:number", lazy: page(() => import("./quoting/QuotePage")) },
                  { path: "/jobs/:number", lazy: jobSheet("job") },
                  { path: "/invoices/:number", lazy: jobSheet("invoice") },
                  { path: "/people/:id/days/:day", lazy: page(() => import("./field/DayPage")) },
                  { path: "/hours/:monday?", lazy: page(() => import("./field/HoursPage")) },
                  { path: "/check-desk", lazy: page(() => import("./checkdesk/CheckDeskPage")) },
                  { path: "/came-in-late", lazy: page(() => import("./field/CameInLatePage")) },
                  { path: "/planner/:day?", lazy: page(() => import("./planning/PlannerPage")) },
                  { path: "/customers", lazy: page(() => import("./customers/CustomersPage")) },
                  { path: "/customers/new", lazy: page(() => import("./calls/NewCallerPage")) },
                  { path: "/customers/:id", lazy: page(() => import("./calls/CallerPage")) },
                  { path: "/imports/:id?", lazy: page(() => import("./importing/ImportPage")) },
                  { path: "/figures/faults", lazy: page(() => import("./figures/FaultsPage")) },
                  { path: "/mail-stand-in", lazy: page(() => import("./mail/MailStandInPage")) },
                  { path: "/to-dos", lazy: page(() => import("./todos/ToDosPage")) },
                  { path: "/rounds", lazy: page(() => import("./rounds/RoundsPage")) },
                  { path: "/agreements/:id", lazy: page(() => import("./rounds/AgreementPage")) },
                  { path: "/parts-wanted", lazy: page(() => import("./partswanted/PartsWantedPage")) },
                  { path: "/stores", lazy: page(() => import("./stores/StoresPage")) },
                  { path: "/checklists/:id?", lazy: page(() => import("./checklists/ChecklistEditorPage")) },
                  { path: "/fault-talks/:kind?", lazy: page(() => import("./calls/TalkEditorPage")) },
                  { path: "/books", element: <Navigate to="/books/journal" replace /> },
                  { path: "/books/journal", lazy: page(() => import("./books/BooksPage")) },
                  { path: "/books/:code", lazy: page(() => import("./books/BooksPage")) },
                  ...STAGES.map((stage) => ({
                    path: `/${stage}/:row?`,
                    lazy: worklist(stage),
                  })),
                ],
              },
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

keepCarried(queryClient);
layOutTokens();
createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <PersistQueryClientProvider client={queryClient} persistOptions={carry}>
      <RouterProvider router={router} />
    </PersistQueryClientProvider>
    <Announcer />
  </StrictMode>,
);

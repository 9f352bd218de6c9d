import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import {
  createBrowserRouter,
  Link,
  Outlet,
  type RouteObject,
  RouterProvider,
  ScrollRestoration,
} from "react-router";
import { ApiError, lock } from "../api/client";
import { BenchPage } from "../features/bench/BenchPage";
import { BriefPage } from "../features/brief/BriefPage";
import { BuildsPage } from "../features/builds/BuildsPage";
import { ComparePage } from "../features/compare/ComparePage";
import { GearingPage } from "../features/gearing/GearingPage";
import { KeepingPage } from "../features/keeping/KeepingPage";
import { ShelfPage } from "../features/shelf/ShelfPage";
import { UnitsProvider } from "../units/preferences";
import { Settings } from "./Settings";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // What is only away for a while is asked for again until it answers.
      retry: (_, problem) => problem instanceof ApiError && problem.passing,
      retryDelay: 1500,
      refetchOnWindowFocus: false,
      networkMode: "always",
    },
  },
});

function Lost() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="mb-2 text-2xl font-semibold">Nothing stands here</h1>
      <Link to="/" className="text-water underline">
        All builds
      </Link>
    </main>
  );
}

/** What a browser sees that never opened the address with its key. */
function Shut() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="mb-2 text-2xl font-semibold">This browser has no key yet</h1>
      <p>
        Young Torrent answers only who started it. Open the address that <code>bin/start</code>{" "}
        printed, the one that ends in <code>?key=…</code>, once in this browser; it is remembered
        from then on. Nothing you typed here is lost.
      </p>
    </main>
  );
}

/** Every page begins at its top, and where one was on the way back; its own changes stay put. */
function Page() {
  return (
    <>
      <Outlet />
      <ScrollRestoration getKey={(location) => location.pathname} />
    </>
  );
}

const pages: RouteObject[] = [
  { path: "/", element: <BuildsPage settings={<Settings />} /> },
  { path: "/builds/:id", element: <BenchPage settings={<Settings />} /> },
  { path: "/builds/:id/gearing", element: <GearingPage settings={<Settings />} /> },
  { path: "/briefs/:id", element: <BriefPage settings={<Settings />} /> },
  { path: "/compare", element: <ComparePage settings={<Settings />} /> },
  { path: "/kept", element: <KeepingPage settings={<Settings />} /> },
  { path: "/shelf", element: <ShelfPage settings={<Settings />} /> },
  { path: "*", element: <Lost /> },
];

const router = createBrowserRouter([{ element: <Page />, children: pages }]);

export function App() {
  const isShut = useSyncExternalStore(lock.watch, lock.isShut);
  if (isShut) return <Shut />;
  return (
    <QueryClientProvider client={queries}>
      <UnitsProvider>
        <RouterProvider router={router} />
      </UnitsProvider>
    </QueryClientProvider>
  );
}

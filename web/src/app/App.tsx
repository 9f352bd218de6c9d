import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, useSyncExternalStore } from "react";
import {
  createBrowserRouter,
  Link,
  Outlet,
  type RouteObject,
  RouterProvider,
  ScrollRestoration,
} from "react-router";
import { ApiError, lock } from "../api/client";
import { UnitsProvider } from "../units/preferences";
import { BuildFrame } from "./BuildFrame";
import { PlainFrame } from "./PlainFrame";

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

const Builds = lazy(() =>
  import("../features/builds/StartPage").then((it) => ({ default: it.StartPage })),
);
const Brief = lazy(() =>
  import("../features/brief/BriefPage").then((it) => ({ default: it.BriefPage })),
);
const Compare = lazy(() =>
  import("../features/compare/ComparePage").then((it) => ({ default: it.ComparePage })),
);
const Keeping = lazy(() =>
  import("../features/keeping/KeepingPage").then((it) => ({ default: it.KeepingPage })),
);
const Shelf = lazy(() =>
  import("../features/shelf/ShelfPage").then((it) => ({ default: it.ShelfPage })),
);

/** The pages of a build stand in one frame, which lists them; all others in another. */
const pages: RouteObject[] = [
  { path: "/builds/:id/*", element: <BuildFrame /> },
  {
    element: <PlainFrame />,
    children: [
      { path: "/", element: <Builds /> },
      { path: "/briefs/:id", element: <Brief /> },
      { path: "/compare", element: <Compare /> },
      { path: "/kept", element: <Keeping /> },
      { path: "/shelf", element: <Shelf /> },
      { path: "*", element: <Lost /> },
    ],
  },
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

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactElement } from "react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { vi } from "vitest";
import { client } from "./api/client";
import { UnitsProvider } from "./units/preferences";

/** Draws a page or a part of one as the application does, at an address. */
export function drawn(what: ReactElement, { at = "/", path = "*" } = {}) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createMemoryRouter(
    [
      { path, element: what },
      { path: "*", element: null },
    ],
    { initialEntries: [at] },
  );
  const { container } = render(
    <QueryClientProvider client={queries}>
      <UnitsProvider>
        <RouterProvider router={router} />
      </UnitsProvider>
    </QueryClientProvider>,
  );
  return { container, router };
}

export interface Sent {
  path: string;
  params: Record<string, string>;
  query: Record<string, string>;
  body: unknown;
}

/** What a stand-in for the server answers: data, or a refusal by its status. */
type Answer = { data: unknown } | { status: number; where: string; what: string };

/** A stand-in for the server; returns everything that is sent to it. */
export function serverAnswers(answer: (method: string, sent: Sent) => Answer | Promise<Answer>) {
  const all: (Sent & { method: string })[] = [];
  for (const method of ["GET", "POST", "PUT", "DELETE"] as const) {
    vi.spyOn(client, method).mockImplementation((async (path: string, init: unknown) => {
      const { params, body } = (init ?? {}) as {
        params?: { path?: Record<string, string>; query?: Record<string, string> };
        body?: unknown;
      };
      const sent = { path, params: params?.path ?? {}, query: params?.query ?? {}, body };
      all.push({ method, ...sent });
      const told = await answer(method, sent);
      if ("data" in told) return { data: told.data, response: new Response(null) };
      const { status, where, what } = told;
      return { error: { error: { where, what } }, response: new Response(null, { status }) };
    }) as never);
  }
  return all;
}

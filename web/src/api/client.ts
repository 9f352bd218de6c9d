import createClient from "openapi-fetch";
import type { paths } from "./generated/schema";
import type { ErrorAnswer } from "./types";

export const client = createClient<paths>({ baseUrl: "/" });

/** A refusal the server gave, or the lack of an answer (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly where: string,
    readonly what: string,
    readonly body: ErrorAnswer | null = null,
  ) {
    super(`${where ? `${where} ` : ""}${what}`);
  }

  /** Whether the same request may go through later: nothing is wrong with what was sent. */
  get passing(): boolean {
    return this.status === 0 || this.status >= 500;
  }
}

interface Reply<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

let keyless = false;
const told = new Set<() => void>();

/** Whether this browser was refused for want of the product's key. */
export const lock = {
  isShut: () => keyless,
  watch: (changed: () => void) => {
    told.add(changed);
    return () => told.delete(changed);
  },
};

function shut() {
  keyless = true;
  for (const changed of told) changed();
}

/** The data of a reply; anything else is thrown as an ApiError. */
export async function answered<T>(sent: Promise<Reply<T>>): Promise<T> {
  let reply: Reply<T>;
  try {
    reply = await sent;
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === "AbortError") throw problem;
    throw new ApiError(0, "server", "does not answer");
  }
  if (reply.response.ok) return reply.data as T;
  if (reply.response.status === 401) shut();
  const body = isErrorAnswer(reply.error) ? reply.error : null;
  const error = body?.error ?? { where: "server", what: `answered ${reply.response.status}` };
  throw new ApiError(reply.response.status, error.where, error.what, body);
}

function isErrorAnswer(value: unknown): value is ErrorAnswer {
  return typeof value === "object" && value !== null && "error" in value;
}

import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** A call that failed, in words for the user. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.title);
  }
}

function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

// Looked up at each call, so that a test can put another in its place.
export const client = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => globalThis.fetch(request),
});
client.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

const unreachable: Problem = {
  title: "Valley does not answer.",
  detail: "Check that it is still running, then try again. Nothing you saved is lost.",
  kind: "offline",
  data: {},
};

/** The data of a call, or a ProblemError. */
export async function unwrap<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result: { data?: T; error?: unknown; response: Response };
  try {
    result = await call;
  } catch {
    throw new ProblemError(0, unreachable);
  }
  if (result.response.ok) return result.data as T;
  const body = result.error as Partial<Problem> | undefined;
  throw new ProblemError(result.response.status, {
    title: body?.title ?? "Something went wrong on Valley's side.",
    detail: body?.detail ?? "Try again; what was saved before is safe.",
    kind: body?.kind ?? "error",
    data: body?.data ?? {},
  });
}

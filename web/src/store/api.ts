import type { HistoryRow, Summary } from "@alderman/core";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";

/** Lists that are read from the server as they are; the open railway itself is kept by its own slice. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api/" }),
  tagTypes: ["railways"],
  endpoints: (build) => ({
    railways: build.query<Summary[], void>({ query: () => "railways", providesTags: ["railways"] }),
    samples: build.query<string[], void>({ query: () => "railways/samples" }),
    create: build.mutation<{ id: string }, string>({
      query: (name) => ({ url: "railways", method: "POST", body: { name } }),
      invalidatesTags: ["railways"],
    }),
    openSample: build.mutation<{ id: string }, string>({
      query: (sample) => ({ url: "railways/sample", method: "POST", body: { sample } }),
      invalidatesTags: ["railways"],
    }),
    importFile: build.mutation<{ id: string }, string>({
      query: (text) => ({
        url: "railways/import",
        method: "POST",
        body: text,
        headers: { "Content-Type": "text/plain" },
      }),
      invalidatesTags: ["railways"],
    }),
    removeRailway: build.mutation<void, string>({
      query: (id) => ({ url: `railways/${id}`, method: "DELETE" }),
      invalidatesTags: ["railways"],
    }),
    history: build.query<HistoryRow[], { id: string; revision: number }>({
      query: ({ id }) => `railways/${id}/history`,
    }),
  }),
});

/** An answer of the server that is not what was hoped for, with a sentence for the owner. */
export class ServerError extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

/** Asks the server; `status` 0 stands for no answer. @throws {ServerError} */
export async function ask<T>(path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(
      `/api/${path}`,
      body === undefined
        ? {}
        : { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) },
    );
  } catch {
    throw new ServerError("The server does not answer.", 0);
  }
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw new ServerError(sentenceOf(answer), response.status);
  return answer as T;
}

/** The sentence in an error's body, from the server or from a query. */
export function sentenceOf(error: unknown): string {
  const body = error as { error?: { message?: string } | string; data?: unknown; status?: unknown } | undefined;
  if (body?.data !== undefined && body.status !== undefined) return sentenceOf(body.data);
  if (typeof body?.error === "object" && body.error.message) return body.error.message;
  return "The server does not answer. Is the program still running?";
}

import { HistoryRow, HistorySize, Summary } from "@alderman/core";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import * as z from "zod/mini";
import { forgetFindings } from "../derivation/keptFindings.ts";
import { laterMiddleware, reducer } from "./store.ts";

const Made = z.object({ id: z.string() });
type Made = z.infer<typeof Made>;

const Backup = z.object({
  name: z.string(),
  kind: z.enum(["daily", "before-update", "asked", "replaced"]),
  at: z.string(),
  bytes: z.number(),
});
/** A backup of the whole database. */
export type Backup = z.infer<typeof Backup>;
const Damage = z.object({ damage: z.array(z.string()) });

/** Backups stand beside the railways, not below them. */
const BACKUPS = "../backups";

/** Lists that are read from the server as they are, each looked at before it is believed; an open railway has its session. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api/railways" }),
  tagTypes: ["railways", "backups"],
  endpoints: (build) => ({
    railways: build.query<Summary[], void>({
      query: () => "",
      responseSchema: z.array(Summary),
      providesTags: ["railways"],
    }),
    samples: build.query<string[], void>({ query: () => "samples", responseSchema: z.array(z.string()) }),
    create: build.mutation<Made, string>({
      query: (name) => ({ url: "", method: "POST", body: { name } }),
      responseSchema: Made,
      invalidatesTags: ["railways"],
    }),
    openSample: build.mutation<Made, string>({
      query: (sample) => ({ url: "sample", method: "POST", body: { sample } }),
      responseSchema: Made,
      invalidatesTags: ["railways"],
    }),
    importFile: build.mutation<Made, string>({
      query: (body) => ({ url: "import", method: "POST", body, headers: { "Content-Type": "text/plain" } }),
      responseSchema: Made,
      invalidatesTags: ["railways"],
    }),
    removeRailway: build.mutation<void, string>({
      query: (id) => ({ url: id, method: "DELETE" }),
      invalidatesTags: ["railways"],
      onQueryStarted: (id, { queryFulfilled }) => {
        // one that is not removed keeps what was found of it
        void queryFulfilled.then(
          () => forgetFindings(id),
          () => undefined,
        );
      },
    }),
    backups: build.query<Backup[], void>({
      query: () => BACKUPS,
      responseSchema: z.array(Backup),
      providesTags: ["backups"],
    }),
    makeBackup: build.mutation<Backup, void>({
      query: () => ({ url: BACKUPS, method: "POST" }),
      responseSchema: Backup,
      invalidatesTags: ["backups"],
    }),
    putBack: build.mutation<Backup[], string>({
      query: (name) => ({ url: `${BACKUPS}/put-back`, method: "POST", body: { name } }),
      responseSchema: z.array(Backup),
      invalidatesTags: ["backups", "railways"],
    }),
    checkDatabase: build.mutation<z.infer<typeof Damage>, void>({
      query: () => ({ url: `${BACKUPS}/check`, method: "POST" }),
      responseSchema: Damage,
    }),
    history: build.query<HistoryRow[], { id: string; revision: number; before?: number }>({
      query: ({ id, before }) => `${id}/history${before === undefined ? "" : `?before=${before}`}`,
      responseSchema: z.array(HistoryRow),
    }),
    historySize: build.query<HistorySize, { id: string; revision: number }>({
      query: ({ id }) => `${id}/history/size`,
      responseSchema: HistorySize,
    }),
  }),
});

reducer.inject(api);
laterMiddleware.addMiddleware(api.middleware);

/** The sentence in the error of a query. */
export function sentenceOf(error: unknown): string {
  const { data } = (error ?? {}) as { data?: { error?: { message?: string } } };
  return data?.error?.message ?? "The server does not answer. Is the program still running?";
}

/** The log of the shop. */
import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas } from "./client";

export type LogEntry = Schemas["LogEntryOut"];
export type Outcome = Schemas["Outcome"];
export type LogKind = Schemas["LogKind"];

export interface LogFilter {
  machine: string;
  kind: LogKind | "";
  outcome: Outcome | "";
  text: string;
}

// As many as the server tells at once.
const PAGE = 100;

/** Entries, the newest first, page by page. */
export function useLog({ machine, text, ...filter }: LogFilter) {
  const kind = filter.kind || undefined;
  const outcome = filter.outcome || undefined;
  return useInfiniteQuery({
    queryKey: ["log", machine, text, kind, outcome],
    queryFn: ({ pageParam, signal }) =>
      answered(
        api.GET("/api/log", {
          params: { query: { machine, kind, outcome, text, before: pageParam } },
          signal,
        }),
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length < PAGE ? undefined : page.at(-1)?.id),
  });
}

/** What was done for this ask last time. */
export function useLastTime(machine: string, ask: string) {
  return useQuery({
    queryKey: ["log", "last", machine, ask],
    queryFn: () => answered(api.GET("/api/log/last", { params: { query: { machine, ask } } })),
    enabled: machine !== "" && ask !== "",
  });
}

export function useDone() {
  return useMutation({
    mutationFn: (body: Schemas["DoneIn"]) => answered(api.POST("/api/log/done", { body })),
  });
}

export function useAddNote() {
  return useMutation({
    mutationFn: (body: Schemas["NoteIn"]) => answered(api.POST("/api/log/notes", { body })),
  });
}

export function useCorrect() {
  return useMutation({
    mutationFn: ({ entry, ...body }: Schemas["CorrectionIn"] & { entry: number }) =>
      answered(api.POST("/api/log/{entry}/correction", { params: { path: { entry } }, body })),
  });
}

export function logFileAddress({ machine, text }: LogFilter): string {
  return `/api/log/file.csv?${new URLSearchParams({ machine, text })}`;
}

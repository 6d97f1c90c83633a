/** The log of the shop, and what it says of a machine. */
import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";

import { answered, api, Refusal, sendPicture, type Schemas, type Units } from "./client";

export type LogEntry = Schemas["LogEntryOut"];
export type Outcome = Schemas["Outcome"];
export type LogKind = Schemas["LogKind"];
export type Book = Schemas["BookOut"];
export type SetUpInUse = Schemas["SetUpInUse"];

/** What a photograph is of; empty for nothing in particular. */
export interface PhotoAbout {
  machine: string;
  ask: string;
  train: string;
  note: string;
  by: string;
}

/** Which entries; empty for all. machine: its short name; teeth: as typed; since, until: days. */
export interface LogFilter {
  machine: string;
  kind: LogKind | "";
  outcome: Outcome | "";
  text: string;
  teeth: string;
  since: string;
  until: string;
  /** The number of one entry. */
  entry: string;
}

/** The answer of what keeps it in the log; of who may only look, the same without that. */
export async function keptOrLooked<T>(keep: () => Promise<T>, look: () => Promise<T>): Promise<T> {
  try {
    return await keep();
  } catch (error) {
    if (error instanceof Refusal && error.problem.status === 403) return look();
    throw error;
  }
}

// As many as the server tells at once.
const PAGE = 100;

function filterQuery({ kind, outcome, teeth, entry, ...filter }: LogFilter) {
  return {
    ...filter,
    kind: kind || undefined,
    outcome: outcome || undefined,
    teeth: Number(teeth) || undefined,
    entry: Number(entry) || undefined,
  };
}

/** Entries, the newest first, page by page. */
export function useLog(filter: LogFilter, units: Units) {
  return useInfiniteQuery({
    queryKey: ["log", filter, units],
    queryFn: ({ pageParam, signal }) =>
      answered(
        api.GET("/api/log", {
          params: { query: { ...filterQuery(filter), units, before: pageParam } },
          signal,
        }),
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => (page.length < PAGE ? undefined : page.at(-1)?.id),
  });
}

/** Where the same entries are to be had as a table, or on paper. */
export function logFileAddress(kind: "csv" | "pdf", filter: LogFilter, units: Units): string {
  const query = Object.entries({ ...filterQuery(filter), units }).filter(([, value]) => value);
  return `/api/log/file.${kind}?${new URLSearchParams(query.map(([name, value]) => [name, String(value)]))}`;
}

/** What was done for this ask last time. */
export function useLastTime(machine: string, ask: string, units: Units) {
  return useQuery({
    queryKey: ["log", "last", machine, ask, units],
    queryFn: () =>
      answered(api.GET("/api/log/last", { params: { query: { machine, ask, units } } })),
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

/** A photograph for the log, of what it is about. */
export function useLogPhoto() {
  return useMutation({
    mutationFn: async ({ file, ...about }: PhotoAbout & { file: File }): Promise<LogEntry> => {
      const query = new URLSearchParams({ ...about });
      return (await (await sendPicture(`/api/log/photos?${query}`, file)).json()) as LogEntry;
    },
  });
}

export function useCorrect() {
  return useMutation({
    mutationFn: ({ entry, ...body }: Schemas["CorrectionIn"] & { entry: number }) =>
      answered(api.POST("/api/log/{entry}/correction", { params: { path: { entry } }, body })),
  });
}

/** What the log says of one machine. */
export function useBook(machine: string, units: Units) {
  return useQuery({
    queryKey: ["log", "book", machine, units],
    queryFn: () =>
      answered(
        api.GET("/api/log/book/{machine}", { params: { path: { machine }, query: { units } } }),
      ),
  });
}

/** Put the lead that the readings say into the lathe's record. */
export function useTakeScrew(machine: string) {
  return useMutation({
    mutationFn: () =>
      answered(api.POST("/api/log/book/{machine}/screw", { params: { path: { machine } } })),
  });
}

export function usePin() {
  return useMutation({
    mutationFn: (body: Schemas["PinIn"]) => answered(api.POST("/api/log/pins", { body })),
  });
}

export function useUnpin() {
  return useMutation({
    mutationFn: (pin: number) =>
      answered(api.DELETE("/api/log/pins/{pin}", { params: { path: { pin } } })),
  });
}

/** What is on each machine, what is pinned, what was done last. */
export function useToday(units: Units) {
  return useQuery({
    queryKey: ["log", "today", units],
    queryFn: () => answered(api.GET("/api/log/today", { params: { query: { units } } })),
  });
}

/** The station with that ask and set-up. */
export function stationAddress(station: string, machine: string, ask: string, train = ""): string {
  return `/${station}/${machine}?${new URLSearchParams({ ask, ...(train && { train }) })}`;
}

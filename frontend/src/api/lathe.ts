/** Questions asked of a lathe, and what is told to it. */
import { keepPreviousData, useMutation, useQueries, useQuery } from "@tanstack/react-query";

import { useAdvice } from "./advice";
import { keptOrLooked } from "./log";
import { answered, api, type Candidate, type Schemas, type Units } from "./client";
import type { Change, MountRequest, OnNow, PlannedKind } from "./planned";
import { saving } from "./saving";
import type { paths } from "./schema";

/** What is made of a line; `at` is where it is typed, for a bare lead is a helix at the mill. */
export function useReading(ask: string, units: Units, at: "" | Schemas["Station"]) {
  const query = { ask, units, at };
  return useQuery({
    queryKey: ["reading", query],
    queryFn: () => answered(api.GET("/api/reading", { params: { query } })),
    enabled: ask.trim() !== "",
    placeholderData: keepPreviousData,
  });
}

/** The train with one change. */
function useChangedTrain(machine: string, ask: string, units: Units) {
  return useMutation({
    mutationFn: ({ train, ...change }: Change & { train: string }) =>
      answered(
        api.GET("/api/lathes/{machine}/train/changed", {
          params: { path: { machine }, query: { ask, train, units, ...change } },
        }),
      ),
  });
}

export type Fields = NonNullable<paths["/api/lathes/fields"]["get"]["parameters"]["query"]>;

/** The ask that plain fields make. */
export function useFields() {
  return useMutation({
    mutationFn: (fields: Fields) =>
      answered(api.GET("/api/lathes/fields", { params: { query: fields } })),
  });
}

/** The slowest of the kind asked for, and what one new wheel would bring. */
export function useSlower(machine: string, ask: string, units: Units, enabled: boolean) {
  return useQuery({
    queryKey: ["machines", machine, "slower", ask, units],
    queryFn: () =>
      answered(
        api.GET("/api/lathes/{machine}/slower", {
          params: { path: { machine }, query: { ask, units } },
        }),
      ),
    enabled,
  });
}

export interface ReadingTaken {
  measured: string;
  turns: string;
  method: Schemas["Method"];
  off: string;
}

/** What a length may be measured with, and how far each may be off. */
export function useMethods(units: Units) {
  return useQuery({
    queryKey: ["methods", units],
    queryFn: () => answered(api.GET("/api/lathes/methods", { params: { query: { units } } })),
    staleTime: Infinity,
  });
}

/** Compare a measured length with a train: yes, or the slips that explain it. */
/** Compare a reading, and keep it in the log. by: initials. */
export function useLengthCheck(
  machine: string,
  ask: string,
  train: string,
  units: Units,
  by: string,
) {
  return useMutation({
    mutationFn: (taken: ReadingTaken) =>
      keptOrLooked(
        () =>
          answered(
            api.POST("/api/lathes/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, by, ...taken } },
            }),
          ),
        () =>
          answered(
            api.GET("/api/lathes/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, ...taken } },
            }),
          ),
      ),
  });
}

/** The lathes that a carriage travel speaks for. */
export function useConstants(units: Units) {
  return useMutation({
    mutationFn: (taken: ReadingTaken & { train: string }) =>
      answered(api.GET("/api/lathes/constants", { params: { query: { ...taken, units } } })),
  });
}

export type List = Schemas["List"];

export function useLists(machine: string) {
  return useQuery({
    queryKey: ["machines", machine, "lists"],
    queryFn: () =>
      answered(api.GET("/api/lathes/{machine}/lists", { params: { path: { machine } } })),
  });
}

// Lines of a chart asked for together: enough to be laid out quickly, few enough for the bar to move.
const LINES = 40;

/** A chart, a stretch of lines at a time; what is known so far is shown while the rest is worked out. */
export function useChart(machine: string, lists: List[], lines: number, units: Units) {
  const starts = Array.from({ length: Math.ceil(lines / LINES) }, (_, n) => n * LINES);
  return useQueries({
    queries: starts.map((start) => ({
      queryKey: ["machines", machine, "chart", lists, start, units],
      queryFn: () =>
        answered(
          api.GET("/api/lathes/{machine}/chart", {
            params: { path: { machine }, query: { list: lists, start, count: LINES, units } },
          }),
        ),
    })),
    combine: (parts) => ({
      rows: parts.flatMap((p) => p.data?.rows ?? []),
      done: parts.filter((p) => p.isSuccess).length,
      parts: parts.length,
      mostInAFile: parts.find((p) => p.data)?.data?.most_in_a_file ?? 0,
      error: parts.find((p) => p.error)?.error ?? null,
      retry: () => parts.forEach((p) => p.error && void p.refetch()),
    }),
  });
}

/** Which wheels may be made, and for which pitches in place of the lists; as typed. */
export interface Limits {
  wanted: string;
  fewest: string;
  most: string;
  cutters: boolean;
  head: string;
}

/** Which wheel is worth making for these lists. */
export function useWorth(machine: string, lists: List[], limits: Limits, units: Units) {
  const query = new URLSearchParams([
    ...lists.map((list): [string, string] => ["list", list]),
    ["units", units],
    ["cutters", String(limits.cutters)],
  ]);
  for (const name of ["wanted", "fewest", "most", "head"] as const)
    if (limits[name].trim()) query.set(name, limits[name].trim());
  return useAdvice<Schemas["WorthAdvice"]>(machine, `/api/lathes/${machine}/worth?${query}`);
}

export function chartCsvAddress(machine: string, lists: List[], units: Units): string {
  return `/api/lathes/${machine}/chart.csv?${new URLSearchParams([...lists.map((list): [string, string] => ["list", list]), ["units", units]])}`;
}

/** Record what is on a machine; `seen` is what was on it when that was decided. */
function useMount(machine: string) {
  return useMutation({
    mutationFn: ({ train, seen, ask }: MountRequest) =>
      saving((now) =>
        answered(
          api.PUT("/api/machines/{machine}/mounted", {
            params: { path: { machine } },
            body: { train, ask, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

/** A thread or a feed on a lathe, planned. */
export const LATHE: PlannedKind<Schemas["PlanOut"], Candidate, Schemas["PlanOut"]> = {
  kind: "lathe",
  plan: ({ machine, ask, order }, units) => {
    const query = { ask, order, units };
    return {
      queryKey: ["machines", machine, "plan", query],
      queryFn: () =>
        answered(api.GET("/api/lathes/{machine}/plan", { params: { path: { machine }, query } })),
    };
  },
  train: ({ machine, ask }, train, units) => {
    const query = { ask, train, units };
    return {
      queryKey: ["machines", machine, "train", query],
      queryFn: () =>
        answered(api.GET("/api/lathes/{machine}/train", { params: { path: { machine }, query } })),
    };
  },
  now: (machine, units) => ({
    queryKey: ["machines", machine, "now", units],
    queryFn: () =>
      answered(
        api.GET("/api/lathes/{machine}/now", { params: { path: { machine }, query: { units } } }),
      ),
  }),
  useMount,
  useChanged: useChangedTrain,
  sheet: ({ machine, ask }, train, units) =>
    `/api/lathes/${machine}/sheet.pdf?${new URLSearchParams({ ask, train, units })}`,
  beside: (plan) => [plan.most_exact_unfit, plan.one_more],
  nowAsPlan: (now) => now,
  trainText: ({ text }) => text,
  recorded: ({ text }, name) => `${text} is on ${name}`,
  ordered: true,
};

export const useOnLathe: OnNow = function useOnNow(machine, units) {
  const now = useQuery(LATHE.now(machine, units)).data;
  if (!now?.first) return undefined;
  return { drawn: [{ title: "", drawing: now.first.drawing }], outlines: now.outlines };
};

/** One thread on every lathe of the shop, the least trouble first. */
export function useComparedLathes(ask: string, units: Units) {
  return useQuery({
    queryKey: ["lathes", "compare", ask, units],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/lathes/compare", { params: { query: { ask, units } }, signal })),
    enabled: ask !== "",
  });
}

/** Questions about hobbing, and what is told of a hobber. */
import { useMutation, useQueries, useQuery } from "@tanstack/react-query";

import { useAdvice } from "./advice";
import { keptOrLooked } from "./log";
import { answered, api, type Schemas, type Units } from "./client";
import { inParts } from "./parts";
import { type MountRequest, onNow, type PlannedKind } from "./planned";
import { saving } from "./saving";
import type { paths } from "./schema";

export type HobPlan = Schemas["HobPlanOut"];
/** Trains for every box, as a list shows them. */
export type ListedSetUp = Schemas["ListedSetUp"];
/** Trains for every box, as they are looked at. */
export type SetUp = Schemas["SetUpOut"];
export type HobAsk = Schemas["HobAskOut"];
export type Material = Schemas["BlankMaterial"];

export function useMaterials() {
  return useQuery({
    queryKey: ["materials"],
    queryFn: () => answered(api.GET("/api/hobbers/materials")),
    staleTime: Infinity,
  });
}

export type HobFields = NonNullable<paths["/api/hobbers/fields"]["get"]["parameters"]["query"]>;

/** The ask that plain fields make. */
export function useHobFields() {
  return useMutation({
    mutationFn: (fields: HobFields) =>
      answered(api.GET("/api/hobbers/fields", { params: { query: fields } })),
  });
}

export interface HobReading {
  kind: Schemas["MeasuredBy"];
  measured: string;
  turns: string;
  off: string;
}

/** Compare what was read at the table with the trains: yes, or the slips that explain it. */
/** Compare a reading, and keep it in the log. by: initials. */
export function useHobCheck(machine: string, ask: string, train: string, units: Units, by: string) {
  return useMutation({
    mutationFn: (taken: HobReading) =>
      keptOrLooked(
        () =>
          answered(
            api.POST("/api/hobbers/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, by, ...taken } },
            }),
          ),
        () =>
          answered(
            api.GET("/api/hobbers/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, ...taken } },
            }),
          ),
      ),
  });
}

/** Record what is in the boxes. */
function useMount(machine: string) {
  return useMutation({
    mutationFn: ({ train, seen, ask }: MountRequest) =>
      saving((now) =>
        answered(
          api.PUT("/api/hobbers/{machine}/mounted", {
            params: { path: { machine } },
            body: { train, ask, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

/** A wheel on a hobber, planned. */
export const HOBBER: PlannedKind<HobPlan, SetUp, Schemas["HobNowOut"]> = {
  kind: "hobber",
  plan: ({ machine, ask, material }, units) => {
    const query = { ask, material, units };
    return {
      queryKey: ["machines", machine, "hob-plan", query],
      queryFn: () =>
        answered(api.GET("/api/hobbers/{machine}/plan", { params: { path: { machine }, query } })),
    };
  },
  train: ({ machine, ask, material }, train, units) => {
    const query = { ask, train, material, units };
    return {
      queryKey: ["machines", machine, "hob-train", query],
      queryFn: () =>
        answered(api.GET("/api/hobbers/{machine}/train", { params: { path: { machine }, query } })),
    };
  },
  now: (machine) => ({
    queryKey: ["machines", machine, "hob-now"],
    queryFn: () =>
      answered(api.GET("/api/hobbers/{machine}/now", { params: { path: { machine } } })),
  }),
  standing: ({ ask, train }) => (ask === null ? null : { ask, train }),
  useMount,
  // Its boxes share one set: which wheel goes where is chosen by the list.
  useChanged: () => undefined,
  sheet: ({ machine, ask, material }, train, units) =>
    `/api/hobbers/${machine}/sheet.pdf?${new URLSearchParams({ ask, train, material, units })}`,
  beside: (plan) => plan.ways_out.map(({ candidate }) => candidate),
  trainText: ({ boxes }) => boxes.map(({ name, text }) => `${name} ${text}`).join(", "),
  recorded: (_, name) => `these trains are on ${name}`,
  ordered: false,
};

export const useOnHobber = onNow(HOBBER, ({ drawn }) =>
  drawn.map(({ name, drawing }) => ({ title: name, drawing })),
);

/** The index constant of a machine without papers. */
export function useHobConstants() {
  return useMutation({
    mutationFn: (typed: { train: string; hob_turns: string; table_turns: string; off: string }) =>
      answered(api.GET("/api/hobbers/constants", { params: { query: typed } })),
  });
}

export type HobChartRow = Schemas["HobChartRow"];

// Counts of a chart asked for together.
const COUNTS = 20;

/** How every count stands, a stretch at a time; what is known so far is shown while the rest is worked out. */
export function useHobChart(machine: string, first: number, last: number, units: Units) {
  const starts = Array.from(
    { length: Math.max(0, Math.ceil((last - first + 1) / COUNTS)) },
    (_, n) => first + n * COUNTS,
  );
  return useQueries({
    queries: starts.map((from) => {
      const query = { first: from, last: Math.min(last, from + COUNTS - 1), units };
      return {
        queryKey: ["machines", machine, "hob-chart", query],
        queryFn: () =>
          inParts(from, (first) =>
            answered(
              api.GET("/api/hobbers/{machine}/chart", {
                params: { path: { machine }, query: { ...query, first } },
              }),
            ),
          ),
      };
    }),
    combine: (parts) => ({
      rows: parts.flatMap((p) => p.data?.flatMap((part) => part.rows) ?? []),
      done: parts.filter((p) => p.isSuccess).length,
      parts: parts.length,
      error: parts.find((p) => p.error)?.error ?? null,
      retry: () => parts.forEach((p) => p.error && void p.refetch()),
    }),
  });
}

/** Which wheels are worth making for these counts. */
export function useHobWorth(machine: string, first: number, last: number) {
  const query = new URLSearchParams({ first: String(first), last: String(last) });
  return useAdvice<Schemas["HobWorthOut"]>(machine, `/api/hobbers/${machine}/worth?${query}`);
}

export function hobChartCsv(machine: string, first: number, last: number, units: Units): string {
  return `/api/hobbers/${machine}/chart.csv?${new URLSearchParams({ first: String(first), last: String(last), units })}`;
}

/** How the hob's rack makes the tooth, and the pair in mesh. */
export function useRolling(ask: string) {
  return useQuery({
    queryKey: ["rolling", ask],
    queryFn: () => answered(api.GET("/api/hobbers/rolling", { params: { query: { ask } } })),
    staleTime: Infinity,
  });
}

/** Backlash from measured spans. */
export function useBacklash(ask: string, units: Units) {
  return useMutation({
    mutationFn: (typed: { span: string; mate_span: string; centres: string }) =>
      answered(api.GET("/api/hobbers/backlash", { params: { query: { ...typed, ask, units } } })),
  });
}

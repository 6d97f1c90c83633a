/** Questions about helical leads, and what is told of a mill. */
import { useMutation, useQuery } from "@tanstack/react-query";

import { useAdvice } from "./advice";
import { keptOrLooked } from "./log";
import { answered, api, type Schemas, type Units } from "./client";
import { inParts } from "./parts";
import { type Change, type MountRequest, onNow, type PlannedKind } from "./planned";
import { saving } from "./saving";
import type { paths } from "./schema";

export type HelixPlan = Schemas["HelixPlanOut"];
/** Wheels and worm pair that are looked at. */
export type HelixSetUp = Schemas["HelixSetUpOut"];
export type HelixAsk = Schemas["HelixAskOut"];
export type HelixSetting = Schemas["HelixSettingOut"];
export type TableView = Schemas["ViewOut"];

export type HelixFields = NonNullable<paths["/api/mills/fields"]["get"]["parameters"]["query"]>;

/** The ask that plain fields make. */
export function useHelixFields() {
  return useMutation({
    mutationFn: (fields: HelixFields) =>
      answered(api.GET("/api/mills/fields", { params: { query: fields } })),
  });
}

/** What must be read when the table is moved so far; empty for a handy way. */
export function useExpected(machine: string, train: string, over: string, units: Units) {
  const query = { train, over, units };
  return useQuery({
    queryKey: ["machines", machine, "helix-expected", query],
    queryFn: () =>
      answered(api.GET("/api/mills/{machine}/expected", { params: { path: { machine }, query } })),
  });
}

export interface HelixReading {
  kind: Schemas["ReadAs"];
  measured: string;
  over: string;
  off: string;
  turned: Schemas["WayTurned"];
}

/** Compare what was read at the work with the set-up: yes, or the slips that explain it. */
/** Compare a reading, and keep it in the log. by: initials. */
export function useLeadCheck(
  machine: string,
  ask: string,
  train: string,
  units: Units,
  by: string,
) {
  return useMutation({
    mutationFn: (taken: HelixReading) =>
      keptOrLooked(
        () =>
          answered(
            api.POST("/api/mills/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, by, ...taken } },
            }),
          ),
        () =>
          answered(
            api.GET("/api/mills/{machine}/check", {
              params: { path: { machine }, query: { ask, train, units, ...taken } },
            }),
          ),
      ),
  });
}

export interface PairFields {
  mate: string;
  helix: string;
  hand: "" | "right" | "left";
  centres: string;
}

/** The wheel with a mate: how they stand to each other, and whether one train cuts both. */
export function usePair(machine: string, ask: string, train: string, units: Units) {
  return useMutation({
    mutationFn: (typed: PairFields) =>
      answered(
        api.GET("/api/mills/{machine}/pair", {
          params: { path: { machine }, query: { ask, train, units, ...typed } },
        }),
      ),
  });
}

/** Record what is in the lead drive. */
function useMount(machine: string) {
  return useMutation({
    mutationFn: ({ train, seen, ask }: MountRequest) =>
      saving((now) =>
        answered(
          api.PUT("/api/mills/{machine}/mounted", {
            params: { path: { machine } },
            body: { train, ask, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

/** The set-up with one change of its wheels. */
function useChanged(machine: string, ask: string, units: Units) {
  return useMutation({
    mutationFn: ({ train, ...change }: Change & { train: string }) =>
      answered(
        api.GET("/api/mills/{machine}/train/changed", {
          params: { path: { machine }, query: { ask, train, units, ...change } },
        }),
      ),
  });
}

/** A helix on a mill, planned. */
export const MILL: PlannedKind<HelixPlan, HelixSetUp, Schemas["HelixNowOut"]> = {
  kind: "mill",
  plan: ({ machine, ask, order }, units) => {
    const query = { ask, order, units };
    return {
      queryKey: ["machines", machine, "helix-plan", query],
      queryFn: () =>
        answered(api.GET("/api/mills/{machine}/plan", { params: { path: { machine }, query } })),
    };
  },
  train: ({ machine, ask }, train, units) => {
    const query = { ask, train, units };
    return {
      queryKey: ["machines", machine, "helix-train", query],
      queryFn: () =>
        answered(api.GET("/api/mills/{machine}/train", { params: { path: { machine }, query } })),
    };
  },
  now: (machine, units) => ({
    queryKey: ["machines", machine, "helix-now", units],
    queryFn: () =>
      answered(
        api.GET("/api/mills/{machine}/now", { params: { path: { machine }, query: { units } } }),
      ),
  }),
  standing: ({ ask, train }) => (ask === null ? null : { ask, train }),
  useMount,
  useChanged,
  sheet: ({ machine, ask }, train, units) =>
    `/api/mills/${machine}/sheet.pdf?${new URLSearchParams({ ask, train, units })}`,
  beside: (plan) => [plan.most_exact_unfit, plan.one_more],
  trainText: ({ text }) => text,
  recorded: ({ text }, name) => `${text} is on ${name}`,
  ordered: true,
};

export const useOnMill = onNow(MILL, ({ drawing }) => [{ title: "", drawing }]);

/** What a chart of leads is of. */
export interface LeadsOf {
  pitch: string;
  first: number;
  last: number;
  angles: string;
  hand: "right" | "left";
}

export type LeadCell = Schemas["CellOut"];

export function useLeadChart(machine: string, of: LeadsOf, units: Units) {
  return useQuery({
    queryKey: ["machines", machine, "lead-chart", of, units],
    queryFn: async () => {
      const parts = await inParts(of.first, (first) =>
        answered(
          api.GET("/api/mills/{machine}/chart", {
            params: { path: { machine }, query: { ...of, first, units } },
          }),
        ),
      );
      return { ...parts[0]!, cells: parts.flatMap((part) => part.cells) };
    },
  });
}

/** Which wheels are worth making for these leads. */
export function useLeadWorth(machine: string, of: LeadsOf) {
  return useAdvice<Schemas["HelixWorthOut"]>(
    machine,
    `/api/mills/${machine}/worth?${leadsQuery(of)}`,
  );
}

export function leadChartCsv(machine: string, of: LeadsOf, units: Units): string {
  return `/api/mills/${machine}/chart.csv?${leadsQuery(of)}&${new URLSearchParams({ units })}`;
}

function leadsQuery({ pitch, first, last, angles, hand }: LeadsOf): URLSearchParams {
  return new URLSearchParams({ pitch, first: String(first), last: String(last), angles, hand });
}

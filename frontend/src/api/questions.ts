/** One hook for each question asked of the server, and one for each thing told to it. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { answered, api, type Order, type Schemas, type Units } from "./client";

export interface Asked {
  machine: string;
  ask: string;
  order: Order;
  diameter: string;
  engagement: string;
}

export function useShop() {
  return useQuery({ queryKey: ["shop"], queryFn: () => answered(api.GET("/api/shop")) });
}

export function useMachines() {
  return useQuery({ queryKey: ["machines"], queryFn: () => answered(api.GET("/api/machines")) });
}

export function useShelf(machine: string) {
  return useQuery({
    queryKey: ["machines", machine, "wheels"],
    queryFn: () => answered(api.GET("/api/machines/{machine}/wheels", { params: { path: { machine } } })),
  });
}

export function useReading(ask: string, units: Units) {
  return useQuery({
    queryKey: ["reading", ask, units],
    queryFn: () => answered(api.GET("/api/lathes/reading", { params: { query: { ask, units } } })),
    enabled: ask.trim() !== "",
    placeholderData: keepPreviousData,
  });
}

export function usePlan(asked: Asked, units: Units) {
  const { machine, ask, order, diameter, engagement } = asked;
  const query = { ask, order, units, ...lengths(diameter, engagement) };
  return useQuery({
    queryKey: ["machines", machine, "plan", query],
    queryFn: () => answered(api.GET("/api/lathes/{machine}/plan", { params: { path: { machine }, query } })),
    enabled: ask.trim() !== "",
    placeholderData: keepPreviousData,
  });
}

/** What is on a lathe now, and what it cuts; null when it is bare. */
export function useNow(machine: string, units: Units, enabled: boolean) {
  return useQuery({
    queryKey: ["machines", machine, "now", units],
    queryFn: () => answered(api.GET("/api/lathes/{machine}/now", { params: { path: { machine }, query: { units } } })),
    enabled,
  });
}

export interface ReadingTaken {
  measured: string;
  turns: number;
  method: Schemas["Method"];
}

/** What a scratch pass may be measured with, and how far each may be off. */
export function useMethods(units: Units) {
  return useQuery({ queryKey: ["methods", units], queryFn: () => answered(api.GET("/api/lathes/methods", { params: { query: { units } } })), staleTime: Infinity });
}

/** Compare a measured scratch pass with a train: yes, or the slips that explain it. */
export function useProof(machine: string, ask: string, train: string, units: Units) {
  return useMutation({
    mutationFn: (taken: ReadingTaken) =>
      answered(api.GET("/api/lathes/{machine}/proof", { params: { path: { machine }, query: { ask, train, units, ...taken } } })),
  });
}

/** Where the sheet of one train lies as PDF. */
export function sheetAddress(asked: Asked, train: string, units: Units): string {
  const { machine, ask, diameter, engagement } = asked;
  const query = new URLSearchParams({ ask, train, units, ...lengths(diameter, engagement) });
  return `/api/lathes/${machine}/sheet.pdf?${query}`;
}

function lengths(diameter: string, engagement: string) {
  return { ...(diameter && { diameter }), ...(engagement && { engagement }) };
}

/** Record what is on a machine; answers what was on it before. */
export function useMount(machine: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (train: string | null) =>
      answered(api.PUT("/api/machines/{machine}/mounted", { params: { path: { machine } }, body: { train } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["machines"] }),
  });
}

export function useSetWheels(machine: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wheels: string) =>
      answered(api.PUT("/api/machines/{machine}/wheels", { params: { path: { machine } }, body: { wheels } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["machines"] }),
  });
}

export function useLoadDemo() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answered(api.POST("/api/shop/demo", { body: { confirm: "replace by the demo shop" } })),
    onSuccess: () => client.invalidateQueries(),
  });
}

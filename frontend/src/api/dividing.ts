/** Questions about dividing. */
import { useQueries, useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas, type Units } from "./client";
import { inAddress } from "./inAddress";
import { inParts } from "./parts";

export type Way = Schemas["WayOut"];
export type Plate = Schemas["PlateOut"];
export type Move = Schemas["MoveOut"];

export function useWays(ask: string, diameter: string, units: Units) {
  return useQuery({
    queryKey: ["dividing", ask, diameter, units],
    queryFn: () =>
      answered(api.GET("/api/dividing/ways", { params: { query: { ask, diameter, units } } })),
    enabled: ask.trim() !== "",
  });
}

/** Every move of one way, once round. */
export function useMoves(machine: string, divisions: number, way: number, enabled: boolean) {
  return useQuery({
    queryKey: ["dividing", "moves", machine, divisions, way],
    queryFn: () =>
      answered(
        api.GET("/api/dividing/{machine}/moves", {
          params: { path: { machine }, query: { divisions: String(divisions), way } },
        }),
      ),
    enabled: enabled && machine !== "",
  });
}

/** Counts that are asked for in one go: what one question may cost has a bound. */
const COUNTS = 100;

/** How every count from 2 to the last is divided, as far as it is known yet. */
export function useDividingChart(machine: string, last: number) {
  const starts = Array.from({ length: Math.ceil((last - 1) / COUNTS) }, (_, n) => 2 + n * COUNTS);
  return useQueries({
    queries: starts.map((first) => ({
      queryKey: ["dividing", "chart", machine, first, last],
      queryFn: () =>
        inParts(first, (from) =>
          answered(
            api.GET("/api/dividing/{machine}/chart", {
              params: {
                path: { machine },
                query: { first: from, last: Math.min(last, first + COUNTS - 1) },
              },
            }),
          ),
        ),
      enabled: machine !== "",
    })),
    combine: (parts) => ({
      machine: parts[0]?.data?.[0]?.machine,
      lines: parts.flatMap((p) => p.data?.flatMap((part) => part.lines) ?? []),
      done: parts.every((p) => p.isSuccess),
      error: parts.find((p) => p.error)?.error ?? null,
      retry: () => parts.forEach((p) => p.error && void p.refetch()),
    }),
  });
}

export interface DiscAsk {
  divisions: string;
  diameter: string;
  long: string;
  numbered: string;
}

export function useDisc(options: DiscAsk, units: Units) {
  return useQuery({
    queryKey: ["dividing", "disc", options, units],
    queryFn: () =>
      answered(api.GET("/api/dividing/disc", { params: { query: { ...options, units } } })),
  });
}

export function discFile(
  options: DiscAsk,
  form: "disc" | "strip",
  kind: "dxf" | "svg" | "pdf",
  units: Units,
): string {
  return `/api/dividing/disc.${kind}?${inAddress({ ...options, form, units })}`;
}

export interface PlateAsk {
  divisions: string;
  holes: string;
  diameter: string;
  hole: string;
}

export function useNewPlate(machine: string, options: PlateAsk, units: Units) {
  return useQuery({
    queryKey: ["dividing", "plate", machine, options, units],
    queryFn: () =>
      answered(
        api.GET("/api/dividing/{machine}/plate", {
          params: { path: { machine }, query: { ...options, units } },
        }),
      ),
    enabled: machine !== "",
  });
}

export function plateFile(
  machine: string,
  options: PlateAsk,
  kind: "csv" | "dxf" | "svg",
  units: Units,
): string {
  return `/api/dividing/${machine}/plate.${kind}?${inAddress({ ...options, units })}`;
}

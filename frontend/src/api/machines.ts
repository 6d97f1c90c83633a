/** Questions about machines and their records. */
import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { answered, api, type Schemas, type Units } from "./client";
import { saving } from "./saving";
import type { operations } from "./schema";

/** Units matter to who shows their facts. */
export function useMachines(units: Units = "mm") {
  return useQuery({
    queryKey: ["machines", "all", units],
    queryFn: () => answered(api.GET("/api/machines", { params: { query: { units } } })),
    placeholderData: keepPreviousData,
  });
}

export function useShelf(machine: string) {
  return useQuery({
    queryKey: ["machines", machine, "wheels"],
    queryFn: () =>
      answered(api.GET("/api/machines/{machine}/wheels", { params: { path: { machine } } })),
  });
}

export function useLatheRecord(machine: string | undefined) {
  return useQuery({
    queryKey: ["machines", machine, "record"],
    queryFn: () =>
      answered(
        api.GET("/api/lathe-records/{machine}", { params: { path: { machine: machine! } } }),
      ),
    enabled: machine !== undefined,
  });
}

/** The record drawn while it is typed, and whether a known train goes on by it. */
export function useLathePreview(record: Schemas["LatheRecordIO"], train: string, units: Units) {
  return useQuery({
    queryKey: ["preview", record, train, units],
    queryFn: () =>
      answered(
        api.POST("/api/lathe-records/preview", {
          body: { record, train },
          params: { query: { units } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** Put a machine away, or take it into use again. */
export function useArchiveMachine(machine: string) {
  return useMutation({
    mutationFn: (archived: boolean) =>
      answered(
        api.PUT("/api/machines/{machine}/archived", {
          params: { path: { machine } },
          body: { archived },
        }),
      ),
  });
}

/** Take a machine out of the shop; its wheels stay. */
export function useDeleteMachine(machine: string) {
  return useMutation({
    mutationFn: () =>
      answered(api.DELETE("/api/machine-records/{machine}", { params: { path: { machine } } })),
  });
}

/** Save a new lathe with its wheels, or a known one. */
export function useSaveLathe(machine: string | undefined) {
  return useMutation({
    mutationFn: (record: Schemas["LatheRecordIO"]) =>
      saving((now) => {
        const version = now?.record ?? record.version;
        const body = { ...record, version, wheels_seen: now ? null : record.wheels_seen };
        return answered(
          machine === undefined
            ? api.POST("/api/lathe-records", { body })
            : api.PUT("/api/lathe-records/{machine}", { params: { path: { machine } }, body }),
        );
      }),
  });
}

export type Calipers = NonNullable<operations["take_readings"]["parameters"]["query"]>;

/** Distance of the shafts and the slot, from caliper readings. */
export function useCalipers() {
  return useMutation({
    mutationFn: (readings: Calipers) =>
      answered(api.GET("/api/lathe-records/calipers", { params: { query: readings } })),
  });
}

/** Ready lathes to start from. */
export function useExamples(wanted: boolean) {
  return useQuery({
    queryKey: ["examples"],
    queryFn: () => answered(api.GET("/api/lathe-records/examples")),
    enabled: wanted,
    staleTime: Infinity,
  });
}

/** Add a ready lathe. */
export function useAddExample() {
  return useMutation({
    mutationFn: (example: Schemas["Example"]) =>
      answered(
        api.POST("/api/lathe-records/examples/{example}", { params: { path: { example } } }),
      ),
  });
}

export function useSetWheels(machine: string) {
  return useMutation({
    mutationFn: ({ wheels, seen }: { wheels: string; seen: string }) =>
      saving((now) =>
        answered(
          api.PUT("/api/machines/{machine}/wheels", {
            params: { path: { machine } },
            body: { wheels, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

/** What a change at each place of a machine takes. */
export function useEffort(machine: string) {
  return useQuery({
    queryKey: ["machines", machine, "effort"],
    queryFn: () =>
      answered(api.GET("/api/machines/{machine}/effort", { params: { path: { machine } } })),
  });
}

export function useSaveEffort(machine: string) {
  return useMutation({
    mutationFn: (weights: Record<string, string>) =>
      answered(
        api.PUT("/api/machines/{machine}/effort", {
          params: { path: { machine } },
          body: { weights },
        }),
      ),
  });
}

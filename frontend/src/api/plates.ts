/** Questions about the plates of machines. */
import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas } from "./client";
import { saving } from "./saving";

export type Plate = Schemas["MachinePlateOut"];
export type PlateKind = Plate["kind"];

/** A machine's plate as it is kept. */
export function useKeptPlate(machine: string | undefined) {
  return useQuery({
    queryKey: ["machines", machine, "plate"],
    queryFn: () =>
      answered(
        api.GET("/api/machine-plates/{machine}", { params: { path: { machine: machine! } } }),
      ),
    enabled: machine !== undefined,
  });
}

/** What a plate gives, while it is typed. */
export function usePlate(kind: PlateKind, lines: string, machine: string | null) {
  return useQuery({
    queryKey: ["machines", machine, "plate", kind, lines],
    queryFn: () =>
      answered(api.POST("/api/machine-plates/read", { body: { kind, lines, machine } })),
    enabled: lines.trim() !== "",
    placeholderData: keepPreviousData,
  });
}

/** The best train of the wheels held for each line of a lathe's plate. */
export function useTrainsOfPlate(machine: string, wanted: boolean) {
  return useQuery({
    queryKey: ["machines", machine, "plate", "trains"],
    queryFn: () =>
      answered(api.GET("/api/machine-plates/{machine}/trains", { params: { path: { machine } } })),
    enabled: wanted,
  });
}

/** Keep a machine's plate as typed. */
export function useSavePlate(machine: string) {
  return useMutation({
    mutationFn: ({ lines, seen }: { lines: string; seen: string }) =>
      saving((now) =>
        answered(
          api.PUT("/api/machine-plates/{machine}", {
            params: { path: { machine } },
            body: { lines, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

/** Put what a machine's plate gives into its record. */
export function useUsePlate(machine: string) {
  return useMutation({
    mutationFn: (body: Schemas["PlateUse"]) =>
      answered(
        api.POST("/api/machine-plates/{machine}/record", { params: { path: { machine } }, body }),
      ),
  });
}

/** Add a machine from its plate. */
export function useAddFromPlate() {
  return useMutation({
    mutationFn: (body: Schemas["MachineFromPlate"]) =>
      answered(api.POST("/api/machine-plates", { body })),
  });
}

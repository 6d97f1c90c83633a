/** Questions about boxes, full sets, cutters, bar stock, ways to a wheel, and machines that are no lathes. */
import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";

import { answered, api, sendPicture, type Schemas, type Units } from "./client";
import { saving } from "./saving";

export type Cutter = Schemas["CutterIn"];
export type Bar = Schemas["BarIn"];
export type MachineRecord = Schemas["MachineRecordIO"];
export type MachineKind = Schemas["MachineKindOut"];
export type RecordPart = Schemas["RecordPartOut"];
export type RecordField = Schemas["RecordFieldOut"];

export function useStores() {
  return useQuery({ queryKey: ["stores"], queryFn: () => answered(api.GET("/api/stores")) });
}

/** What is done in the stores: a record added, typed over, or deleted. */
type Write<T> =
  { do: "add"; typed: T } | { do: "change"; id: number; typed: T } | { do: "delete"; id: number };

export function useSaveCutter() {
  return useSaveStores<Cutter>(
    (body) => answered(api.POST("/api/stores/cutters", { body })),
    (number, body) =>
      answered(api.PUT("/api/stores/cutters/{number}", { params: { path: { number } }, body })),
    (number) =>
      answered(api.DELETE("/api/stores/cutters/{number}", { params: { path: { number } } })),
  );
}

export function useSaveBar() {
  return useSaveStores<Bar>(
    (body) => answered(api.POST("/api/stores/bars", { body })),
    (number, body) =>
      answered(api.PUT("/api/stores/bars/{number}", { params: { path: { number } }, body })),
    (number) => answered(api.DELETE("/api/stores/bars/{number}", { params: { path: { number } } })),
  );
}

function useSaveStores<T extends { version?: number | null }>(
  add: (typed: T) => Promise<unknown>,
  change: (id: number, typed: T) => Promise<unknown>,
  remove: (id: number) => Promise<unknown>,
) {
  return useMutation({
    mutationFn: (write: Write<T>): Promise<unknown> => {
      switch (write.do) {
        case "add":
          return add(write.typed);
        case "change":
          return saving((now) =>
            change(write.id, { ...write.typed, version: now?.record ?? write.typed.version }),
          );
        case "delete":
          return remove(write.id);
      }
    },
  });
}

/** A machine's wheels against its maker's list. */
export function useFullSet(machine: string) {
  return useQuery({
    queryKey: ["rack", "set", machine],
    queryFn: () => answered(api.GET("/api/rack/sets/{machine}", { params: { path: { machine } } })),
  });
}

export function usePutFullSet(machine: string) {
  return useMutation({
    mutationFn: ({ wheels, seen }: { wheels: string; seen: string }) =>
      saving((now) =>
        answered(
          api.PUT("/api/rack/sets/{machine}", {
            params: { path: { machine } },
            body: { wheels, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

export function usePlaces() {
  return useQuery({
    queryKey: ["rack", "places"],
    queryFn: () => answered(api.GET("/api/rack/places")),
  });
}

export function useMerge() {
  return useMutation({
    mutationFn: (boxes: Schemas["MergeIn"]) =>
      answered(api.POST("/api/rack/merge", { body: boxes })),
  });
}

/** Keep a picture with a wheel. */
export function usePhoto() {
  return useMutation({
    mutationFn: async ({
      wheel,
      file,
    }: {
      wheel: number;
      file: File;
    }): Promise<Schemas["RackDone"]> => {
      const response = await sendPicture(`/api/rack/photos?wheel=${wheel}`, file);
      return (await response.json()) as Schemas["RackDone"];
    },
  });
}

/** How to get a wheel: one re-cut, one from bar, and the cutter. */
export function useSources(family: number, teeth: number, blanks: number, units: Units) {
  return useQuery({
    queryKey: ["sources", family, teeth, blanks, units],
    queryFn: () =>
      answered(
        api.GET("/api/rack/sources/{family}/{teeth}", {
          params: { path: { family, teeth }, query: { blanks, units } },
        }),
      ),
  });
}

export interface Bought {
  bore: string;
  key: string;
  face: string;
  hub: string;
}

export function useBought(family: number, units: Units) {
  return useMutation({
    mutationFn: (bought: Bought) =>
      answered(
        api.GET("/api/rack/bought/{family}", {
          params: { path: { family }, query: { ...bought, units } },
        }),
      ),
  });
}

/** What a machine may be beside a lathe, with the fields of its record; it stays as it is while the program runs. */
export function useMachineKinds() {
  return useQuery({
    queryKey: ["machine-kinds"],
    queryFn: () => answered(api.GET("/api/machine-kinds")),
    staleTime: Infinity,
  });
}

export function useMachineRecord(machine: string) {
  return useQuery({
    queryKey: ["machines", machine, "record"],
    queryFn: () =>
      answered(api.GET("/api/machine-records/{machine}", { params: { path: { machine } } })),
    enabled: machine !== "",
  });
}

/** A head's arm drawn while it is typed; nothing is asked while there is none. */
export function useArmPreview(
  arm: Schemas["QuadrantIO"] | null,
  family: number | null,
  train: string,
  units: Units,
  box: Schemas["ArmTrial"]["box"] = null,
) {
  return useQuery({
    queryKey: ["preview", "arm", arm, family, train, units, box],
    queryFn: () =>
      answered(
        api.POST("/api/machine-records/preview", {
          body: { arm: arm!, family, train, box },
          params: { query: { units } },
        }),
      ),
    enabled: arm !== null,
    placeholderData: keepPreviousData,
  });
}

/** Save a machine that is no lathe, a new one or a known one. */
export function useSaveMachine(machine: string | undefined) {
  return useMutation({
    mutationFn: (record: Schemas["MachineRecordIO"]) =>
      saving((now) => {
        const version = now?.record ?? record.version;
        const body = { ...record, version, wheels_seen: now ? null : record.wheels_seen };
        return answered(
          machine === undefined
            ? api.POST("/api/machine-records", { body })
            : api.PUT("/api/machine-records/{machine}", { params: { path: { machine } }, body }),
        );
      }),
  });
}

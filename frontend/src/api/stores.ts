/** Questions about boxes, full sets, cutters, bar stock, ways to a wheel, and machines that are no lathes. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { changed, changedShop } from "./changed";
import { answered, api, type Problem, Refusal, type Schemas, type Units } from "./client";
import type { RackChange } from "./questions";

export type Cutter = Schemas["CutterIn"];
export type Bar = Schemas["BarIn"];
export type MachineRecord = Schemas["MachineRecordIO"];

export function useStores() {
  return useQuery({ queryKey: ["stores"], queryFn: () => answered(api.GET("/api/stores")) });
}

/** What is done in the stores: a record entered, typed over, or taken out. */
type Kept<T> = { do: "add"; typed: T } | { do: "change"; id: number; typed: T } | { do: "remove"; id: number };

export function useKeepCutter() {
  return useKept<Cutter>(
    (body) => answered(api.POST("/api/stores/cutters", { body })),
    (number, body) => answered(api.PUT("/api/stores/cutters/{number}", { params: { path: { number } }, body })),
    (number) => answered(api.DELETE("/api/stores/cutters/{number}", { params: { path: { number } } })),
  );
}

export function useKeepBar() {
  return useKept<Bar>(
    (body) => answered(api.POST("/api/stores/bars", { body })),
    (number, body) => answered(api.PUT("/api/stores/bars/{number}", { params: { path: { number } }, body })),
    (number) => answered(api.DELETE("/api/stores/bars/{number}", { params: { path: { number } } })),
  );
}

/** Answers what takes it back. */
function useKept<T>(add: (typed: T) => Promise<{ id: number }>, change: (id: number, typed: T) => Promise<unknown>, remove: (id: number) => Promise<T>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (kept: Kept<T> & { before?: T }): Promise<Kept<T>> => {
      switch (kept.do) {
        case "add":
          return { do: "remove", id: (await add(kept.typed)).id };
        case "change":
          await change(kept.id, kept.typed);
          return { do: "change", id: kept.id, typed: kept.before ?? kept.typed };
        case "remove":
          return { do: "add", typed: await remove(kept.id) };
      }
    },
    onSuccess: () => changed(client, "stores", "sources", "wheels"),
  });
}

/** A machine's wheels against its maker's list. */
export function useFullSet(machine: string) {
  return useQuery({ queryKey: ["rack", "set", machine], queryFn: () => answered(api.GET("/api/rack/sets/{machine}", { params: { path: { machine } } })) });
}

export function usePutFullSet(machine: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wheels: string) => answered(api.PUT("/api/rack/sets/{machine}", { params: { path: { machine } }, body: { wheels } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["rack", "set", machine] }),
  });
}

export function usePlaces() {
  return useQuery({ queryKey: ["rack", "places"], queryFn: () => answered(api.GET("/api/rack/places")) });
}

export function useMerge() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (boxes: Schemas["MergeIn"]): Promise<RackChange> => answered(api.POST("/api/rack/merge", { body: boxes })),
    onSuccess: () => changedShop(client),
  });
}

/** Keep a picture with a wheel. */
export function usePhoto() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ wheel, file }: { wheel: number; file: File }): Promise<RackChange> => {
      const response = await fetch(`/api/rack/photos?wheel=${wheel}`, { method: "POST", body: file, headers: { "Content-Type": file.type.startsWith("image/") ? file.type : "image/jpeg" } });
      if (!response.ok) throw new Refusal((await response.json()) as Problem);
      return (await response.json()) as RackChange;
    },
    onSuccess: () => changedShop(client),
  });
}

/** How to come by a wheel: one re-cut, one from bar, and the cutter. */
export function useSources(family: number, teeth: number, blanks: number, units: Units) {
  return useQuery({
    queryKey: ["sources", family, teeth, blanks, units],
    queryFn: () => answered(api.GET("/api/rack/sources/{family}/{teeth}", { params: { path: { family, teeth }, query: { blanks, units } } })),
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
    mutationFn: (bought: Bought) => answered(api.GET("/api/rack/bought/{family}", { params: { path: { family }, query: { ...bought, units } } })),
  });
}

export function useMachineRecord(machine: string) {
  return useQuery({ queryKey: ["machines", machine, "record"], queryFn: () => answered(api.GET("/api/machine-records/{machine}", { params: { path: { machine } } })) });
}

/** A head's arm drawn while it is typed; nothing is asked while there is none. */
export function useArmPreview(arm: Schemas["QuadrantIO"] | null, family: number | null, train: string, units: Units) {
  return useQuery({
    queryKey: ["preview", "arm", arm, family, train, units],
    queryFn: () => answered(api.POST("/api/machine-records/preview", { body: { arm: arm!, family, train }, params: { query: { units } } })),
    enabled: arm !== null,
    placeholderData: keepPreviousData,
  });
}

/** Enter a machine that is no lathe, or change a known one. */
export function useSaveMachine(machine: string | undefined) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (record: MachineRecord) =>
      answered(
        machine === undefined
          ? api.POST("/api/machine-records", { body: record })
          : api.PUT("/api/machine-records/{machine}", { params: { path: { machine } }, body: record }),
      ),
    onSuccess: () => changedShop(client),
  });
}

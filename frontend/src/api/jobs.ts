/** Questions about wheels to be made, and the sessions in which they are cut. */
import { useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";

import { askAgain } from "./askAgain";
import { answered, api, type Schemas, type Units } from "./client";
import { listen } from "./events";
import { keptOrLooked } from "./log";
import { saving } from "./saving";

export type JobLine = Schemas["JobLine"];
export type Job = Schemas["JobOut"];
export type JobFields = Schemas["JobIn"];
export type JobForm = Schemas["JobForm"];
export type JobStep = Schemas["JobStepOut"];
export type Side = Schemas["SideOut"];
export type Cutting = Schemas["SessionOut"];
export type Happening = Omit<Schemas["EventIn"], "by"> & { by?: string };

export function useJobs() {
  return useQuery({ queryKey: ["jobs"], queryFn: () => answered(api.GET("/api/jobs")) });
}

export function useJob(job: number, units: Units) {
  return useQuery({
    queryKey: ["jobs", job, units],
    queryFn: () =>
      answered(api.GET("/api/jobs/{job}", { params: { path: { job }, query: { units } } })),
  });
}

/** Wheels of this many teeth that were made before, but one. */
export function useMadeBefore(teeth: number | undefined, units: Units, but?: number) {
  return useQuery({
    queryKey: ["jobs", "before", teeth, but, units],
    queryFn: () =>
      answered(
        api.GET("/api/jobs/before", { params: { query: { teeth: teeth ?? 0, but, units } } }),
      ),
    enabled: teeth !== undefined,
  });
}

export function useAddJob(units: Units) {
  return useMutation({
    mutationFn: (wanted: Schemas["JobIn"]) =>
      answered(api.POST("/api/jobs", { body: wanted, params: { query: { units } } })),
  });
}

const saved = (job: number) => ["jobs", job, "saved"];

/** Type over what was chosen. */
export function usePutJob(job: number, units: Units) {
  const client = useQueryClient();
  return useMutation({
    mutationKey: saved(job),
    onSuccess: (now) => client.setQueryData(["jobs", job, units], now),
    mutationFn: (typed: JobForm) =>
      saving((now) =>
        answered(
          api.PUT("/api/jobs/{job}", {
            params: { path: { job }, query: { units } },
            body: { ...typed, version: now?.record ?? typed.version },
          }),
        ),
      ),
  });
}

/** Whether nothing that was chosen is on its way to be saved. */
export function useJobSaved(job: number): boolean {
  return useIsMutating({ mutationKey: saved(job) }) === 0;
}

/** Add what was found at a step, and that it is done. */
export function useStepFigure(job: number, units: Units) {
  const client = useQueryClient();
  return useMutation({
    onSuccess: (now) => {
      client.setQueryData(["jobs", job, units], now);
      return askAgain(client, ["jobs"]);
    },
    mutationFn: (figure: Schemas["StepFigureIn"]) =>
      answered(
        api.PUT("/api/jobs/{job}/results", {
          params: { path: { job }, query: { units } },
          body: figure,
        }),
      ),
  });
}

/** Everything that happened with a job, the newest first. */
export function useJobLog(job: number, units: Units) {
  return useQuery({
    queryKey: ["jobs", job, "log", units],
    queryFn: () =>
      answered(api.GET("/api/jobs/{job}/log", { params: { path: { job }, query: { units } } })),
  });
}

export function jobLogAddress(job: number, units: Units): string {
  return `/api/jobs/${job}/log.csv?${new URLSearchParams({ units })}`;
}

export function useDeleteJob(job: number) {
  return useMutation({
    mutationFn: () => answered(api.DELETE("/api/jobs/{job}", { params: { path: { job } } })),
  });
}

/** The wheel is made: into the rack. */
export function useRackJob(job: number, units: Units) {
  return useMutation({
    mutationFn: () =>
      answered(api.POST("/api/jobs/{job}/rack", { params: { path: { job }, query: { units } } })),
  });
}

export function useLastGap(job: number, units: Units) {
  return useMutation({
    mutationFn: (typed: { measured: string; off: string }) => {
      const params = { path: { job }, query: { ...typed, units } };
      return keptOrLooked(
        () => answered(api.POST("/api/jobs/{job}/last-gap", { params })),
        () => answered(api.GET("/api/jobs/{job}/last-gap", { params })),
      );
    },
  });
}

export function jobSheetAddress(job: number, units: Units): string {
  return `/api/jobs/${job}/sheet.pdf?${new URLSearchParams({ units })}`;
}

/** Where the session stands; asked again whenever something is recorded on whatever device. */
export function useCutting(job: number, units: Units) {
  const client = useQueryClient();
  const cutting = useQuery({
    queryKey: ["jobs", job, "session", units],
    queryFn: async () => {
      const answer = await answered(
        api.GET("/api/jobs/{job}/session", { params: { path: { job }, query: { units } } }),
      );
      // What is recorded only grows: an answer that was overtaken on its way is of no use any more.
      const shown = client.getQueryData<Cutting>(["jobs", job, "session", units]);
      return shown && shown.seen > answer.seen ? shown : answer;
    },
  });
  useEffect(() => {
    return listen((news) => {
      const shown = client.getQueryData<Cutting>(["jobs", job, "session", units]);
      const moved = "session" in news && news.session === job && shown?.seen !== news.seen;
      if (moved || "missed" in news) void askAgain(client, ["jobs", job, "session"]);
    });
  }, [job, units, client]);
  return cutting;
}

export function useBegin(job: number, units: Units) {
  return useMutation({
    mutationFn: () =>
      answered(
        api.POST("/api/jobs/{job}/session", { params: { path: { job }, query: { units } } }),
      ),
  });
}

/** Record one thing. Told again with the same key it is recorded once. */
export function useHappening(job: number, units: Units) {
  return useMutation({
    mutationFn: (happening: Happening) =>
      answered(
        api.POST("/api/jobs/{job}/session/events", {
          params: { path: { job }, query: { units } },
          body: { ...happening, by: happening.by ?? "screen" },
        }),
      ),
  });
}

/** Show a session as it was just answered. */
export function useShowCutting(job: number, units: Units) {
  const client = useQueryClient();
  return useCallback(
    (now: Cutting) => client.setQueryData(["jobs", job, "session", units], now),
    [client, job, units],
  );
}

/** Which tooth is this? */
export function useLost(job: number) {
  return useMutation({
    mutationFn: (typed: { hole: string; gaps: string }) =>
      answered(
        api.GET("/api/jobs/{job}/session/lost", { params: { path: { job }, query: typed } }),
      ),
  });
}

export interface ScrewFields {
  screw: string;
  diameter: string;
  threads: string;
  face: string;
  starts: string;
  hand: "right" | "left";
}

/** A wheel to run in a lead screw. */
export function useScrewWheel(units: Units) {
  return useMutation({
    mutationFn: (typed: ScrewFields) =>
      answered(api.GET("/api/jobs/for-a-screw", { params: { query: { ...typed, units } } })),
  });
}

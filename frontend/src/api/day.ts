/** What is to be done, and the order in which it is least work. */
import { useMutation, useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas, type Units } from "./client";
import { saving } from "./saving";

export type Task = Schemas["TaskOut"];
export type ToDo = Schemas["ToDoOut"];
export type MachineDay = Schemas["MachineDayOut"];
export type DayTurn = Schemas["DayTurnOut"];
export type DayWay = Schemas["WayOfDayOut"];

export function useToDo() {
  return useQuery({
    queryKey: ["day"],
    queryFn: () => answered(api.GET("/api/day")),
  });
}

/** The order on one machine. */
export function useMachineDay(machine: string, put_back: boolean, units: Units) {
  return useQuery({
    queryKey: ["day", "machines", machine, put_back, units],
    queryFn: ({ signal }) =>
      answered(
        api.GET("/api/day/machines/{machine}", {
          params: { path: { machine }, query: { put_back, units } },
          signal,
        }),
      ),
  });
}

/** The order of the wheels that are being made. */
export function useJobsDay(units: Units) {
  return useQuery({
    queryKey: ["day", "jobs", units],
    queryFn: ({ signal }) =>
      answered(api.GET("/api/day/jobs", { params: { query: { units } }, signal })),
  });
}

export function useAddTasks() {
  return useMutation({
    mutationFn: (body: Schemas["TasksIn"]) => answered(api.POST("/api/day", { body })),
  });
}

export function useEditTask() {
  return useMutation({
    mutationFn: ({ task, ...body }: Schemas["TaskIn"] & { task: number }) =>
      answered(api.PUT("/api/day/{task}", { params: { path: { task } }, body })),
  });
}

export function useDeleteTask() {
  return useMutation({
    mutationFn: (task: number) =>
      answered(api.DELETE("/api/day/{task}", { params: { path: { task } } })),
  });
}

/** Take off the list what is done. */
export function useClearDone() {
  return useMutation({ mutationFn: () => answered(api.DELETE("/api/day/done")) });
}

/** The machine is set up for it now. seen: what was on when that was decided. */
export function useFitted() {
  return useMutation({
    mutationFn: ({ task, train, seen }: { task: number; train: string; seen: string }) =>
      saving((now) =>
        answered(
          api.POST("/api/day/{task}/fitted", {
            params: { path: { task } },
            body: { train, seen: now ? null : seen },
          }),
        ),
      ),
  });
}

export function useTaskDone() {
  return useMutation({
    mutationFn: ({ task, ...body }: Schemas["TaskDoneIn"] & { task: number }) =>
      answered(api.POST("/api/day/{task}/done", { params: { path: { task } }, body })),
  });
}

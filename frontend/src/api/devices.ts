/** What is connected at the machine, and what it tells. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { askAgain } from "./askAgain";
import { answered, api, type Schemas, type Units } from "./client";
import { listen } from "./events";

export type Device = Schemas["DeviceOut"];

/** The devices as they are now; a caliper's figure goes into the field that is open. */
export function useDevices(units: Units, live = false) {
  const client = useQueryClient();
  const devices = useQuery({
    queryKey: ["devices", units],
    queryFn: () => answered(api.GET("/api/devices", { params: { query: { units } } })),
    // An encoder says more than anybody reads: its reading is asked for now and then.
    refetchInterval: live ? 1000 : false,
  });
  useEffect(() => {
    return listen((news) => {
      if ("missed" in news) void askAgain(client, ["devices"]);
      if (!("device" in news)) return;
      // Into the field of the tab that is looked at.
      if (news.sort === "caliper" && typeof news.value === "string" && document.hasFocus())
        typeIn(news.value);
      if (news.came) void askAgain(client, ["jobs"]);
      if (news.sort !== "indicator") void askAgain(client, ["devices"]);
    });
  }, [client]);
  return devices;
}

/** Whether devices are listened to, and how one is connected. */
export function useDeviceLine() {
  return useQuery({
    queryKey: ["devices", "line"],
    queryFn: () => answered(api.GET("/api/devices/line")),
  });
}

/** As if it were typed into the field that has the focus; nothing where none has. */
function typeIn(text: string) {
  const field = document.activeElement;
  if (!(field instanceof HTMLInputElement) || field.getAttribute("role") === "combobox") return;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
  set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

/** Let a pedal or an encoder advance a session, or no more. */
export function useGive() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ number, job }: { number: number; job: number | null }) =>
      answered(
        api.PUT("/api/devices/{number}/job", { params: { path: { number } }, body: { job } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ["devices"] }),
  });
}

/** What an indicator saw once round. */
export function useOnceRound(units: Units) {
  return useMutation({
    mutationFn: (number: number) =>
      answered(
        api.GET("/api/devices/{number}/once-round", {
          params: { path: { number }, query: { units } },
        }),
      ),
  });
}

/** Begin a new round of an indicator. */
export function useBeginRound() {
  return useMutation({
    mutationFn: (number: number) =>
      answered(api.DELETE("/api/devices/{number}/once-round", { params: { path: { number } } })),
  });
}

const KEYS = ["devices", "keys"];

/** Keys by which devices are let in, and whether one is needed. */
export function useDeviceKeys() {
  return useQuery({ queryKey: KEYS, queryFn: () => answered(api.GET("/api/devices/keys")) });
}

export function useAddDeviceKey() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (name: string) => answered(api.POST("/api/devices/keys", { body: { name } })),
    onSuccess: () => client.invalidateQueries({ queryKey: KEYS }),
  });
}

export function useRemoveDeviceKey() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (number: number) =>
      answered(api.DELETE("/api/devices/keys/{number}", { params: { path: { number } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["devices"] }),
  });
}

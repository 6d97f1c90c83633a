/** Questions about a wheel to be made. */
import { useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas, type Units } from "./client";
import { inAddress } from "./inAddress";

export type WheelSizes = Schemas["WheelSizesOut"];

/** How a wheel is asked for; as typed, empty as usual. */
export interface WheelAsk {
  ask: string;
  family?: number;
  angle: string;
  shift: string;
  depth: string;
  over: string;
  pin: string;
  mates: string;
  material: "steel" | "cast iron" | "brass" | "aluminium" | "acetal";
}

export function useWheel(wheel: WheelAsk, units: Units) {
  return useQuery({
    queryKey: ["wheels", wheel, units],
    queryFn: () =>
      answered(api.GET("/api/wheels/sizes", { params: { query: { ...wheel, units } } })),
    enabled: wheel.ask.trim() !== "",
  });
}

export interface AtTheMachine {
  blank: string;
  span: string;
  pins: string;
  dial: string;
}

export function usePlunge(wheel: WheelAsk, typed: AtTheMachine, units: Units) {
  return useQuery({
    queryKey: ["wheels", "plunge", wheel, typed, units],
    queryFn: () =>
      answered(api.GET("/api/wheels/plunge", { params: { query: { ...wheel, ...typed, units } } })),
  });
}

export function useRunout(wheel: WheelAsk, reading: string, units: Units) {
  return useQuery({
    queryKey: ["wheels", "runout", wheel, reading, units],
    queryFn: () =>
      answered(api.GET("/api/wheels/runout", { params: { query: { ...wheel, reading, units } } })),
    enabled: reading.trim() !== "",
  });
}

/** Where the drawing lies as a file. */
export function wheelFile(wheel: WheelAsk, kind: "dxf" | "svg" | "pdf", units: Units): string {
  return `/api/wheels/drawing.${kind}?${inAddress({ ...wheel, units })}`;
}

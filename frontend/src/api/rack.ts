/** Questions about the rack, and changes of it. */
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { answered, api, fetched, sendPicture, type Schemas, type Units } from "./client";
import { saving } from "./saving";

/** What wheels are put in order by; `down`: the other way round. */
export interface RackOrder {
  by: Schemas["SortedBy"];
  down: boolean;
}

/** The wheels that answer to what is sought, a page at a time. */
export function useRack(seek: string, sorted: RackOrder) {
  return useInfiniteQuery({
    queryKey: ["rack", "wheels", seek, sorted],
    queryFn: ({ pageParam }) =>
      answered(api.GET("/api/rack", { params: { query: { seek, ...sorted, begin: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => last.next,
    placeholderData: keepPreviousData,
  });
}

/** Some wheels by their numbers. */
export function useWheels(wheel: number[]) {
  return useQuery({
    queryKey: ["rack", "wheels", wheel],
    queryFn: () => answered(api.GET("/api/rack", { params: { query: { wheel } } })),
    enabled: wheel.length > 0,
  });
}

export function useFamilies() {
  return useQuery({
    queryKey: ["rack", "families"],
    queryFn: () => answered(api.GET("/api/rack/families")),
  });
}

type RackWrite =
  | { do: "add"; pile: Schemas["PileIn"] }
  | { do: "edit"; edit: Schemas["EditIn"] }
  | { do: "remove"; ids: number[] };

/** Change the rack. */
export function useChangeRack() {
  return useMutation({
    mutationFn: (write: RackWrite): Promise<Schemas["RackDone"]> => {
      switch (write.do) {
        case "add":
          return answered(api.POST("/api/rack/wheels", { body: write.pile }));
        case "edit":
          return saving((now) =>
            answered(
              api.PATCH("/api/rack/wheels", {
                body: now ? { ...write.edit, seen: [] } : write.edit,
              }),
            ),
          );
        case "remove":
          return answered(
            api.DELETE("/api/rack/wheels", { params: { query: { wheel: write.ids } } }),
          );
      }
    },
  });
}

/** Which length of a picture is known. */
export type KnownInPhoto = "bore" | "tip" | "length";

/** Wheels counted in a picture. typed: the known length; line: where it lies; at, rim, tooth: the middle of a wheel, its
 * tips and a tooth where a person shows them. Places are parts of the picture's width and height. */
export function useCountPhoto(units: Units) {
  type Place = { x: number; y: number };
  return useMutation({
    mutationFn: async (request: {
      file: File;
      known: KnownInPhoto;
      typed: string;
      line?: { from: Place; to: Place };
      at?: Place;
      rim?: Place;
      tooth?: Place;
    }): Promise<Schemas["PhotoCountOut"]> => {
      const query = new URLSearchParams({ units });
      const put = (name: string, place?: Place) => {
        if (!place) return;
        query.set(`${name}x`, String(place.x));
        query.set(`${name}y`, String(place.y));
      };
      if (request.typed.trim()) query.set(request.known, request.typed.trim());
      if (request.known === "length") {
        put("from_", request.line?.from);
        put("to_", request.line?.to);
      }
      put("", request.at);
      put("rim_", request.rim);
      put("tooth_", request.tooth);
      const response = await sendPicture(`/api/rack/count?${query}`, request.file);
      return (await response.json()) as Schemas["PhotoCountOut"];
    },
  });
}

/** What a CSV file would put into the rack; with `put` it does, all of it or nothing. */
export function useImportCsv() {
  return useMutation({
    mutationFn: async ({
      file,
      put,
      same,
    }: {
      file: File;
      put: boolean;
      same: "add" | "skip" | "replace";
    }): Promise<Schemas["ImportOut"]> => {
      const response = await fetched(`/api/rack/wheels.csv?put=${put}&same=${same}`, {
        method: "POST",
        body: await file.arrayBuffer(),
        headers: { "Content-Type": "text/csv" },
      });
      return (await response.json()) as Schemas["ImportOut"];
    },
  });
}

export function useAddFamily() {
  return useMutation({
    mutationFn: (family: Schemas["FamilyIn"]) =>
      answered(api.POST("/api/rack/families", { body: family })),
  });
}

export type Readings = Schemas["ReadingsIn"];

/** A wheel of which nothing was measured yet. */
export const NO_READINGS: Readings = {
  teeth: "",
  tip_diameter: "",
  tip_method: "caliper",
  tip_off: "",
  span_teeth: "",
  span: "",
  span_next: "",
  pin: "",
  over_pins: "",
  mate: "",
  centres: "",
  bore: "",
  face: "",
  worn: false,
};

/** A wheel that was counted in a picture, into the rack with it; readings: what the picture says of it. */
export function useAddFromPhoto() {
  return useMutation({
    mutationFn: async (wheel: {
      file: File;
      teeth: string;
      family: number | null;
      readings?: Readings;
    }): Promise<Schemas["RackDone"]> => {
      const query = new URLSearchParams({ wheels: wheel.teeth });
      if (wheel.family !== null) query.set("family", String(wheel.family));
      for (const name of ["tip_diameter", "tip_off", "bore"] as const)
        if (wheel.readings?.[name]) query.set(name, wheel.readings[name]);
      const response = await sendPicture(`/api/rack/wheels/photos?${query}`, wheel.file);
      return (await response.json()) as Schemas["RackDone"];
    },
  });
}

/** What a wheel is, from its readings; they are kept with it where it stands in the rack. */
export function useIdentify(units: Units) {
  return useMutation({
    mutationFn: (request: Schemas["IdentifyIn"]) =>
      answered(api.POST("/api/rack/identify", { body: request, params: { query: { units } } })),
  });
}

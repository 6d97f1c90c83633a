/** Questions about the shop itself. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answered, api, fetched, type Schemas, type Units } from "./client";

export function useShop() {
  return useQuery({ queryKey: ["shop"], queryFn: () => answered(api.GET("/api/shop")) });
}

/** The latest changes of the shop, the newest first. */
export function useChanges(open: boolean) {
  return useQuery({
    queryKey: ["changes"],
    queryFn: () => answered(api.GET("/api/changes")),
    enabled: open,
  });
}

export function useLoadDemo() {
  return useMutation({
    mutationFn: () =>
      answered(api.POST("/api/shop/demo", { body: { confirm: "replace by the demo shop" } })),
  });
}

const COPIES = ["copies"];

/** The copies of the shop, the newest first. */
export function useCopies() {
  return useQuery({ queryKey: COPIES, queryFn: () => answered(api.GET("/api/copies")) });
}

export function useMakeCopy() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => answered(api.POST("/api/copies")),
    onSuccess: () => client.invalidateQueries({ queryKey: COPIES }),
  });
}

/** What a copy holds. */
export function useCopy(name: string) {
  return useQuery({
    queryKey: [...COPIES, name],
    queryFn: () => answered(api.GET("/api/copies/{name}", { params: { path: { name } } })),
    retry: false,
  });
}

/** Put a copy in the place of the shop; every page is then loaded anew. */
export function useRestoreCopy() {
  return useMutation({
    mutationFn: (name: string) =>
      answered(
        api.POST("/api/copies/{name}/restore", {
          params: { path: { name } },
          body: { confirm: "replace by this copy" },
        }),
      ),
    onSuccess: () => location.reload(),
  });
}

export function copyAddress(name: string): string {
  return `/api/copies/${encodeURIComponent(name)}/file`;
}

/** What a file of a shop has beside what is here. */
export function useLookAtFile(units: Units) {
  return useMutation({
    mutationFn: async (file: File): Promise<Schemas["FileLookOut"]> => {
      const response = await fetched(`/api/shop/file/look?units=${units}`, {
        method: "POST",
        body: await file.arrayBuffer(),
        headers: { "Content-Type": "application/octet-stream" },
      });
      return (await response.json()) as Schemas["FileLookOut"];
    },
  });
}

/** Take it in, as it was chosen. */
export function useTakeFileIn() {
  return useMutation({
    mutationFn: (body: Schemas["TakeInIn"]) =>
      answered(api.POST("/api/shop/file/import", { body })),
  });
}

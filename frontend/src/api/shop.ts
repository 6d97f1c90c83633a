/** Questions about the shop itself. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { answered, api } from "./client";

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

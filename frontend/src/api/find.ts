/** Whatever the shop has, found by name. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { answered, api, type Schemas } from "./client";

export type SearchResult = Schemas["ThingOut"];

export function useFind(text: string) {
  return useQuery({
    queryKey: ["find", text],
    queryFn: () => answered(api.GET("/api/find", { params: { query: { text } } })),
    enabled: text !== "",
    placeholderData: keepPreviousData,
  });
}

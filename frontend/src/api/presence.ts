/** Who is at a cutting session: each page that shows one says so, and hears which others do. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { answered, api, type Schemas } from "./client";
import { listen } from "./events";
import { newKey } from "./key";

export type Present = Schemas["PresentOut"];

/** What is asked under this has news of its own, and does not change with the shop. */
export const PRESENCE = "presence";

// ms between two times that a page says that it is still there.
const STILL_HERE = 15_000;
const page = newKey();
// What a page says on its way out may overtake what it said before: each says its place.
let place = 0;

/** The other pages that show this session, who came first first. */
export function useOthersAt(session: number): Present[] {
  const { data, refetch } = useQuery({
    queryKey: [PRESENCE, session],
    queryFn: () =>
      answered(api.POST("/api/presence", { body: { page, session, number: place++ } })),
    refetchInterval: STILL_HERE,
    gcTime: 0,
  });
  useEffect(() => {
    const leave = () => {
      void api.POST("/api/presence", {
        body: { page, session: null, number: place++ },
        keepalive: true,
      });
    };
    const done = listen((news) => {
      if ("present" in news && news.present === session) void refetch();
    });
    addEventListener("pagehide", leave);
    return () => {
      done();
      removeEventListener("pagehide", leave);
      leave();
    };
  }, [session, refetch]);
  return data ?? [];
}

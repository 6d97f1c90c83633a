import { useEffect } from "react";
import { useLocation, useParams } from "react-router";

import { useMachines } from "../api/machines";
import { topicOf } from "./pages";

/** The page's title: what is asked, on which machine, at which station. */
export function useTitle(pathname: string) {
  const ask = new URLSearchParams(useLocation().search).get("ask") ?? "";
  const { machine } = useParams();
  const name = useMachines().data?.find((m) => m.slug === machine)?.name;
  const station = topicOf(pathname)?.title;
  useEffect(() => {
    document.title = [ask, name, station, "Valleywind"].filter(Boolean).join(" – ");
  }, [ask, name, station]);
}

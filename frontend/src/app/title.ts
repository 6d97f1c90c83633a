import { useEffect } from "react";
import { useLocation, useParams } from "react-router";

import { useMachines } from "../api/machines";
import { PLANNED } from "./planned";

const STATIONS: [RegExp, string][] = [
  ...PLANNED.flatMap(({ kind, title, pages }): [RegExp, string][] => [
    ...pages.map((page): [RegExp, string] => [
      new RegExp(`^/${kind}/[^/]+/${page.path}`),
      page.title,
    ]),
    [new RegExp(`^/${kind}`), title],
  ]),
  [/^\/rack\/sets/, "Sets"],
  [/^\/rack\/stores/, "Stores"],
  [/^\/rack/, "Rack"],
  [/^\/wheel/, "Wheel"],
  [/^\/dividing\/chart/, "Dividing chart"],
  [/^\/dividing\/disc/, "Disc"],
  [/^\/dividing\/plate/, "Plate"],
  [/^\/dividing/, "Dividing"],
  [/^\/jobs\/\d+\/session/, "Cutting"],
  [/^\/jobs\/devices/, "Devices"],
  [/^\/jobs/, "Jobs"],
  [/^\/machines\/new/, "Add a machine"],
  [/^\/machines\/./, "Machine record"],
  [/^\/machines/, "Machines"],
];

/** The page's title: what is asked, on which machine, at which station. */
export function useTitle(pathname: string) {
  const ask = new URLSearchParams(useLocation().search).get("ask") ?? "";
  const { machine } = useParams();
  const name = useMachines().data?.find((m) => m.slug === machine)?.name;
  const station = STATIONS.find(([path]) => path.test(pathname))?.[1];
  useEffect(() => {
    document.title = [ask, name, station, "Valleywind"].filter(Boolean).join(" – ");
  }, [ask, name, station]);
}

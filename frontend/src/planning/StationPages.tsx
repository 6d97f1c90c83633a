import type { ReactNode } from "react";
import { useParams } from "react-router";

import type { KindPage } from "../app/kinds/kind";
import { Start } from "./Start";

/** What is at the addresses of a kind of machine: where no machine is named, its station, and the pages beside it. */
export function StationPages(props: {
  start: ReactNode;
  station: ReactNode;
  pages: Partial<Record<KindPage["path"], ReactNode>>;
}) {
  const { machine, page } = useParams<{ machine: string; page: KindPage["path"] }>();
  if (machine === undefined) return props.start;
  if (page === undefined) return props.station;
  return props.pages[page] ?? <Start />;
}

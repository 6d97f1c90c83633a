import { lazy } from "react";

import { later } from "../../planning/later";
import { Start } from "../../planning/Start";
import { StationPages } from "../../planning/StationPages";
import { LatheStation } from "./LatheStation";

const ChartStation = lazy(() => import("./ChartStation"));
const ConstantsStation = lazy(() => import("./ConstantsStation"));

export function LathePages() {
  return (
    <StationPages
      start={<Start />}
      station={<LatheStation />}
      pages={{ chart: later(<ChartStation />), unknown: later(<ConstantsStation />) }}
    />
  );
}

import { lazy } from "react";

import { later } from "../../planning/later";
import { StartAt } from "../../planning/StationParts";
import { StationPages } from "../../planning/StationPages";
import { HobberStation } from "./HobberStation";

const HobChartStation = lazy(() => import("./HobChartStation"));

export default function HobberPages() {
  return (
    <StationPages
      start={<StartAt kind="hobber" needs="Its constants and its wheels are enough to begin." />}
      station={<HobberStation />}
      pages={{ chart: later(<HobChartStation />) }}
    />
  );
}

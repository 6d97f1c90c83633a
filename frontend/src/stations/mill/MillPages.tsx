import { lazy } from "react";

import { later } from "../../planning/later";
import { StartAt } from "../../planning/StationParts";
import { StationPages } from "../../planning/StationPages";
import { MillStation } from "./MillStation";

const LeadChartStation = lazy(() => import("./LeadChartStation"));

export default function MillPages() {
  return (
    <StationPages
      start={
        <StartAt
          kind="mill"
          needs="Its table screw, its head and its wheels are enough to begin."
        />
      }
      station={<MillStation />}
      pages={{ chart: later(<LeadChartStation />) }}
    />
  );
}

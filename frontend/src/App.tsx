import { lazy, type ReactNode, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";

import { useMachines } from "./api/machines";
import { useShared } from "./api/shared";
import { standIns } from "./api/standIns";
import { Failed } from "./app/Notice";
import { LatheStation } from "./stations/lathe/LatheStation";
import { Shell } from "./app/Shell";
import { PAGE_PATIENCE, Working } from "./kit/Working";

const ChartStation = lazy(() => import("./stations/lathe/ChartStation"));
const DayStation = lazy(() => import("./stations/day/DayStation"));
const ConstantsStation = lazy(() => import("./stations/lathe/ConstantsStation"));
const HobberStation = lazy(() => import("./stations/hobber/HobberStation"));
const HobChartStation = lazy(() => import("./stations/hobber/HobChartStation"));
const HobberStart = lazy(() =>
  import("./stations/hobber/HobberStation").then((m) => ({ default: m.HobberStart })),
);
const MillStation = lazy(() => import("./stations/mill/MillStation"));
const LeadChartStation = lazy(() => import("./stations/mill/LeadChartStation"));
const MillStart = lazy(() =>
  import("./stations/mill/MillStation").then((m) => ({ default: m.MillStart })),
);
const JobsStation = lazy(() => import("./stations/jobs/JobsStation"));
const DevicesStation = lazy(() => import("./stations/jobs/DevicesStation"));
const JobStation = lazy(() => import("./stations/jobs/JobStation"));
const SessionStation = lazy(() => import("./stations/jobs/SessionStation"));
const RackStation = lazy(() => import("./stations/rack/RackStation"));
const LatheEditor = lazy(() => import("./stations/machines/LatheEditor"));
const RecordStation = lazy(() => import("./stations/machines/RecordStation"));
const NewMachine = lazy(() =>
  import("./stations/machines/MachineEditor").then((m) => ({ default: m.NewMachine })),
);
const KnownPlate = lazy(() =>
  import("./stations/machines/MachinePlate").then((m) => ({ default: m.KnownPlate })),
);
const NewFromPlate = lazy(() =>
  import("./stations/machines/MachinePlate").then((m) => ({ default: m.NewFromPlate })),
);
const SetsStation = lazy(() => import("./stations/rack/SetsStation"));
const StoresStation = lazy(() => import("./stations/rack/StoresStation"));
const WheelStation = lazy(() => import("./stations/wheel/WheelStation"));
const DividingStation = lazy(() => import("./stations/dividing/DividingStation"));
const ChartOfWays = lazy(() => import("./stations/dividing/ChartOfWays"));
const DiscStation = lazy(() => import("./stations/dividing/DiscStation"));
const PlateStation = lazy(() => import("./stations/dividing/PlateStation"));
const StandInsDock = lazy(() => import("./stations/standins/StandInsDock"));
const TodayStation = lazy(() => import("./stations/today/TodayStation"));
const BookStation = lazy(() => import("./stations/log/BookStation"));
const LogStation = lazy(() => import("./stations/log/LogStation"));
const MachinesStation = lazy(() => import("./stations/machines/MachinesStation"));

export function App() {
  const playing = useShared(standIns).length > 0;
  return (
    <>
      <Routes>
        <Route element={<Shell />}>
          <Route index element={<Start />} />
          <Route path="lathe/:machine" element={<LatheStation />} />
          <Route path="lathe/:machine/chart" element={later(<ChartStation />)} />
          <Route path="lathe/:machine/unknown" element={later(<ConstantsStation />)} />
          <Route path="lathe/:machine/plate" element={later(<KnownPlate />)} />
          <Route path="hobber" element={later(<HobberStart />)} />
          <Route path="hobber/:machine" element={later(<HobberStation />)} />
          <Route path="hobber/:machine/chart" element={later(<HobChartStation />)} />
          <Route path="hobber/:machine/plate" element={later(<KnownPlate />)} />
          <Route path="mill" element={later(<MillStart />)} />
          <Route path="mill/:machine" element={later(<MillStation />)} />
          <Route path="mill/:machine/chart" element={later(<LeadChartStation />)} />
          <Route path="mill/:machine/plate" element={later(<KnownPlate />)} />
          <Route path="rack" element={later(<RackStation />)} />
          <Route path="rack/sets" element={later(<SetsStation />)} />
          <Route path="rack/stores" element={later(<StoresStation />)} />
          <Route path="wheel" element={later(<WheelStation />)} />
          <Route path="dividing" element={later(<DividingStation />)} />
          <Route path="dividing/chart" element={later(<ChartOfWays />)} />
          <Route path="dividing/disc" element={later(<DiscStation />)} />
          <Route path="dividing/plate" element={later(<PlateStation />)} />
          <Route path="jobs" element={later(<JobsStation />)} />
          <Route path="jobs/devices" element={later(<DevicesStation />)} />
          <Route path="jobs/:job" element={later(<JobStation />)} />
          <Route path="jobs/:job/session" element={later(<SessionStation />)} />
          <Route path="day" element={later(<DayStation />)} />
          <Route path="today" element={later(<TodayStation />)} />
          <Route path="log/:machine" element={later(<BookStation />)} />
          <Route path="log" element={later(<LogStation />)} />
          <Route path="machines/new" element={later(<LatheEditor />)} />
          <Route path="machines/new/unknown" element={later(<ConstantsStation />)} />
          <Route path="machines/new/plate" element={later(<NewFromPlate />)} />
          <Route path="machines/new/:kind" element={later(<NewMachine />)} />
          <Route path="machines/:edited" element={later(<RecordStation />)} />
          <Route path="machines" element={later(<MachinesStation />)} />
          <Route path="*" element={<Start />} />
        </Route>
      </Routes>
      {playing && (
        <Suspense fallback={null}>
          <StandInsDock />
        </Suspense>
      )}
    </>
  );
}

/** A station whose script is fetched when it is first opened. */
function later(station: ReactNode) {
  const loading = (
    <div className="p-6">
      <Working text="Loading …" patience={PAGE_PATIENCE} />
    </div>
  );
  return <Suspense fallback={loading}>{station}</Suspense>;
}

/** What one comes to: Today, or the machines where there is none yet. An ask, and the word lathe alone, lead to the
 * first lathe; what was asked before the lathes were known goes along. */
function Start() {
  const machines = useMachines();
  const { pathname, search } = useLocation();
  if (machines.error) {
    return (
      <div className="p-6">
        <Failed error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  }
  if (!machines.data) return null;
  if (machines.data.length === 0) return <Navigate replace to="/machines" />;
  const lathe = machines.data.find((m) => m.kind === "lathe" && !m.archived);
  const planning = pathname.startsWith("/lathe") || new URLSearchParams(search).has("ask");
  if (!planning) return <Navigate replace to="/today" />;
  return <Navigate replace to={lathe ? `/lathe/${lathe.slug}${search}` : "/machines"} />;
}

import { type ComponentType, lazy, Suspense } from "react";
import { Route, Routes } from "react-router";

import { useShared } from "./api/shared";
import { standIns } from "./api/standIns";
import { PLANNED, type KindName } from "./app/planned";
import { Shell } from "./app/Shell";
import { later } from "./planning/later";
import { Start } from "./planning/Start";
import { LathePages } from "./stations/lathe/LathePages";

/** What is at the addresses of each kind of machine that trains are planned for. */
const PAGES: Record<KindName, ComponentType> = {
  lathe: LathePages,
  hobber: lazy(() => import("./stations/hobber/HobberPages")),
  mill: lazy(() => import("./stations/mill/MillPages")),
};
const DayStation = lazy(() => import("./stations/day/DayStation"));
const ConstantsStation = lazy(() => import("./stations/lathe/ConstantsStation"));
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
          {PLANNED.flatMap(({ kind }) => {
            const Pages = PAGES[kind];
            return [kind, `${kind}/:machine`, `${kind}/:machine/:page`].map((path) => (
              <Route key={path} path={path} element={later(<Pages />)} />
            ));
          })}
          {PLANNED.map(({ kind }) => (
            <Route key={kind} path={`${kind}/:machine/plate`} element={later(<KnownPlate />)} />
          ))}
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

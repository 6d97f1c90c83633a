import { useState } from "react";

import { useDevices, useGive } from "../../api/devices";
import { useShared } from "../../api/shared";
import { type StandIn, standIns } from "../../api/standIns";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Advances, DeviceLine, NAMES } from "../jobs/DeviceLine";
import { Caliper } from "./Caliper";
import { Camera } from "./Camera";
import { Crank } from "./Crank";
import { Indicator } from "./Indicator";
import { Pedal } from "./Pedal";

const CONTROLS = {
  encoder: Crank,
  pedal: Pedal,
  caliper: Caliper,
  indicator: Indicator,
  camera: Camera,
};

/** The stand-ins that this page plays, beside whatever it shows. Folded, they are still connected. */
export default function StandInsDock() {
  const played = useShared(standIns);
  const [folded, setFolded] = useState(false);
  return (
    <aside
      aria-label="Stand-ins"
      className="fixed right-2 bottom-0 z-20 flex max-h-[70vh] w-[352px] flex-col border border-b-0 border-ink bg-chalk print:hidden phone:inset-x-0 phone:w-auto"
    >
      <button
        type="button"
        aria-expanded={!folded}
        className="flex min-h-11 shrink-0 items-center gap-2 px-3 text-left font-bold"
        onClick={() => setFolded(!folded)}
      >
        <span aria-hidden>{folded ? "▴" : "▾"}</span>
        Stand-ins
        <span className="ml-auto font-normal text-soft">{played.length}</span>
      </button>
      <div className={folded ? "hidden" : "overflow-y-auto"}>
        {played.map((one) => (
          <StandInPanel key={one.number} one={one} />
        ))}
      </div>
    </aside>
  );
}

function StandInPanel({ one }: { one: StandIn }) {
  const { units } = usePreferences();
  const device = useDevices(units, true).data?.find(({ number }) => number === one.number);
  const give = useGive();
  const trouble = useShared(one.trouble);
  const Control = CONTROLS[one.sort];
  return (
    <section aria-label={NAMES[one.sort]} className="border-t border-line bg-paper px-3 pb-3">
      <div className="flex items-center justify-between">
        <h2 className="font-bold">{NAMES[one.sort]}</h2>
        <Button look="quiet" className="my-1" onClick={() => one.stop()}>
          Stop
        </Button>
      </div>
      {device && (
        <DeviceLine device={device} give={give}>
          <Advances device={device} give={give} />
        </DeviceLine>
      )}
      {trouble && (
        <p role="alert" className="text-oxide">
          {trouble}
        </p>
      )}
      <Control one={one} />
    </section>
  );
}

import { type Device, useDeviceLine, useDevices, useGive } from "../../api/devices";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { StartStandIns } from "../standins/StartStandIns";
import { DeviceKeys } from "./DeviceKeys";
import { Advances, DeviceLine } from "./DeviceLine";

/** What is connected at the machine, what it tells, and which session it advances. */
export default function DevicesStation() {
  const { units } = usePreferences();
  const devices = useDevices(units, true);
  const line = useDeviceLine();
  return (
    <div className="h-full overflow-y-auto p-6 phone:p-3">
      <div className="mx-auto max-w-3xl">
        <h1 className="text-title font-bold">Devices</h1>
        <p className="mt-1">
          All are optional. A figure from a caliper goes into the field that is open.
        </p>
        {devices.error && <Failure error={devices.error} retry={() => void devices.refetch()} />}
        {devices.data?.length === 0 && <p className="mt-4 font-bold">Nothing is connected.</p>}
        <ul className="mt-4 flex flex-col gap-2">
          {devices.data?.map((device) => (
            <li key={device.number} className="border border-line bg-paper px-4 py-3">
              <DevicePanel device={device} />
            </li>
          ))}
        </ul>
        {line.data && (
          <Callout tone="hint" as="p" small className="mt-4">
            {line.data.hint}
          </Callout>
        )}
        {line.error && <Failure error={line.error} retry={() => void line.refetch()} />}
        {line.data && <StartStandIns open={line.data.port !== null} />}
        <DeviceKeys />
      </div>
    </div>
  );
}

function DevicePanel({ device }: { device: Device }) {
  const give = useGive();
  return (
    <DeviceLine device={device} give={give}>
      <Advances device={device} give={give} />
    </DeviceLine>
  );
}

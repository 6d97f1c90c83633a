import { type Device, useDevices, useGive, useOnceRound } from "../../api/devices";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";

const NAMES: Record<Device["sort"], string> = {
  encoder: "Encoder",
  indicator: "Indicator",
  caliper: "Caliper",
  pedal: "Pedal",
  camera: "Camera",
};

/** What is connected; a pedal or an encoder may advance the session, an indicator tells the high point. */
export function DevicesPanel({ job, cutting }: { job: number; cutting: boolean }) {
  const devices = useDevices();
  if (!devices.data?.length) return null;
  return (
    <section aria-label="Devices" className="mt-3 border-t border-line pt-2">
      <h2 className="font-bold">Devices</h2>
      <ul>
        {devices.data.map((device) => (
          <li key={device.number} className="border-t border-line py-1.5 text-[15px]">
            <One device={device} job={job} cutting={cutting} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function One({ device, job, cutting }: { device: Device; job: number; cutting: boolean }) {
  const { units } = usePreferences();
  const give = useGive();
  const round = useOnceRound(units);
  const advances = device.sort === "pedal" || device.sort === "encoder";
  const mine = device.job === job;
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">
          {NAMES[device.sort]} <b>{device.name}</b>{" "}
          <span className="font-mono text-soft">{device.latest}</span>
        </span>
        {advances && cutting && (
          <Button
            aria-pressed={mine}
            onClick={() => give.mutate({ number: device.number, job: mine ? null : job })}
          >
            {mine ? "It advances this" : "Let it advance this"}
          </Button>
        )}
        {device.sort === "indicator" && (
          <Button onClick={() => round.mutate(device.number)}>Once round</Button>
        )}
      </div>
      <p role="status">
        {device.said && <span className="block">{device.said}</span>}
        {give.error && <span className="block text-oxide">{give.error.message}</span>}
        {round.data?.text}
        {round.error && <span className="text-oxide">{round.error.message}</span>}
      </p>
    </>
  );
}

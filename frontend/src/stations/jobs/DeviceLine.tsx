import type { ReactNode } from "react";

import { type Device, type useGive, useOnceRound } from "../../api/devices";
import { type JobLine, useJobs } from "../../api/jobs";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";

/** What each sort of device is called. */
export const NAMES: Record<Device["sort"], string> = {
  encoder: "Encoder",
  indicator: "Indicator",
  caliper: "Caliper",
  pedal: "Pedal",
  camera: "Camera",
};

/** A device with what it told last. `children`: which session it advances; an indicator tells the high point. */
export function DeviceLine({
  device,
  give,
  children,
}: {
  device: Device;
  give: ReturnType<typeof useGive>;
  children?: ReactNode;
}) {
  const { units } = usePreferences();
  const round = useOnceRound(units);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <span className="min-w-44 flex-1">
          {NAMES[device.sort]} {device.name !== device.sort && <b>{device.name}</b>}
          {device.on === "work" && " on the work"}{" "}
          <span className="font-mono text-soft">{device.latest}</span>
        </span>
        {device.advances && children}
        {device.sort === "indicator" && (
          <Button onClick={() => round.mutate(device.number)}>Once round</Button>
        )}
      </div>
      <p role="status">
        {device.message && <span className="block">{device.message}</span>}
        {give.error && <span className="block text-oxide">{give.error.message}</span>}
        {round.data?.text}
        {round.error && <span className="text-oxide">{round.error.message}</span>}
      </p>
    </>
  );
}

/** Which session a device advances. Where it stopped by itself it is set anew from where the work stands now. */
export function Advances({ device, give }: { device: Device; give: ReturnType<typeof useGive> }) {
  const sessions = useJobs().data?.filter((job) => job.cutting && !job.done) ?? [];
  const again = device.job !== null && device.message !== "" && device.message !== "Recorded.";
  return (
    <span className="flex w-72 items-end gap-2 phone:w-full">
      <Choice
        label="Advances"
        value={device.job === null ? "" : String(device.job)}
        options={[["", "no session"], ...sessions.map(spelled)]}
        change={(job) => give.mutate({ number: device.number, job: job ? Number(job) : null })}
      />
      {again && (
        <Button onClick={() => give.mutate({ number: device.number, job: device.job })}>
          Set anew
        </Button>
      )}
    </span>
  );
}

function spelled(job: JobLine): [string, string] {
  return [String(job.id), `${job.title}, ${job.state}`];
}

import type { ReactNode } from "react";

import { type Device, type useGive, useOnceRound } from "../../api/devices";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";

const NAMES: Record<Device["sort"], string> = {
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
        <span className="min-w-0 flex-1">
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
        {device.said && <span className="block">{device.said}</span>}
        {give.error && <span className="block text-oxide">{give.error.message}</span>}
        {round.data?.text}
        {round.error && <span className="text-oxide">{round.error.message}</span>}
      </p>
    </>
  );
}

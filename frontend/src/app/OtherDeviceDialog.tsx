import { useState } from "react";
import { useLocation } from "react-router";

import { useCode, useEntry } from "../api/entry";
import { Button } from "../kit/Button";
import { Checkbox } from "../kit/Checkbox";
import { DialogFrame } from "../kit/DialogFrame";
import { QrCode } from "../drawing/QrCode";
import { Failure } from "./Notice";

/** This page on another device: its address, and a code to scan. */
export function OtherDeviceDialog({ close }: { close: () => void }) {
  const { pathname, search } = useLocation();
  const entry = useEntry();
  const [looksOnly, setLooksOnly] = useState(false);
  const reached = entry.data !== undefined && entry.data.address !== "";
  const asks = entry.data?.asks ?? false;
  const code = useCode(pathname + search, asks ? { looks_only: looksOnly } : null, reached);
  const failed = entry.error ?? code.error;
  return (
    <DialogFrame title="This page on another device" open close={close}>
      {failed && <Failure error={failed} />}
      {entry.data && !reached && (
        <div className="mt-3 flex flex-col gap-2">
          <p>Other devices do not reach Valleywind: it was started for this computer only.</p>
          <p>
            To use it on a tablet, start it with{" "}
            <code className="font-mono">valleywind serve --host 0.0.0.0</code>. It asks for a
            passphrase then.
          </p>
        </div>
      )}
      {code.data && (
        <div className="mt-3 flex flex-col items-center gap-3">
          <QrCode modules={code.data.modules} name={`QR code: ${code.data.address}`} />
          <p className="font-mono text-fine break-all">{code.data.address}</p>
          <p>
            Scan it with the camera of the other device.
            {asks && " It signs one device in, once, within ten minutes."}
          </p>
        </div>
      )}
      {asks && (
        <Checkbox label="That device may only look" ticked={looksOnly} change={setLooksOnly} />
      )}
      <Button look="main" className="mt-4 self-start" onClick={close} autoFocus>
        Close
      </Button>
    </DialogFrame>
  );
}

import { useCode, useEntry } from "../api/entry";
import { stationAddress, useLastTime } from "../api/log";
import { usePreferences } from "../app/preferences";
import { QrCode } from "../drawing/QrCode";

/** What leads from a sheet on paper back to its page: a code, where others reach this server, and the number in the log. */
export function SheetMark({ path, number }: { path: string; number?: number }) {
  const reached = Boolean(useEntry().data?.address);
  const code = useCode(path, null, reached).data;
  return (
    <div className="flex items-end gap-2 text-print-fine">
      {number !== undefined && (
        <span className="pb-1 whitespace-nowrap">No. {number} in the log</span>
      )}
      {code && (
        <div className="w-[17mm]">
          <QrCode modules={code.modules} name="This page" />
        </div>
      )}
    </div>
  );
}

/** The same of a set-up: its page, and where it was last put on, measured or used. */
export function SetUpMark(props: { station: string; machine: string; ask: string; train: string }) {
  const { station, machine, ask, train } = props;
  const { units } = usePreferences();
  const last = useLastTime(machine, ask, units).data;
  const number = last?.entries.find((entry) => entry.train === train)?.id;
  return <SheetMark path={stationAddress(station, machine, ask, train)} number={number} />;
}

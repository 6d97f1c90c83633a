import { useState } from "react";

import { useImportCsv } from "../../api/rack";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { DialogFrame } from "../../kit/DialogFrame";
import { Choice } from "../../kit/Form";
import { FileButton } from "../../kit/FileButton";

type Same = "add" | "skip" | "replace";
const COLUMNS = ["teeth", "count", "family", "machine", "condition", "place", "note"];
// The others have no room on a phone; what is wrong with them is told under the line all the same.
const ON_A_PHONE = ["teeth", "count", "family", "machine"];
const column = (name: string) => (ON_A_PHONE.includes(name) ? "" : "phone:hidden");

/** The rack as a CSV file, and from one: first seen line by line, then put in whole or not at all. */
export function CsvFiles({ added }: { added: (text: string) => void }) {
  const [file, setFile] = useState<File>();
  const [same, setSame] = useState<Same>("skip");
  const csv = useImportCsv();
  const { data: checked, error } = csv;
  const close = () => {
    setFile(undefined);
    csv.reset();
  };
  const put = () =>
    file &&
    csv.mutate(
      { file, put: true, same: checked?.there ? same : "add" },
      {
        onSuccess: ({ done, good }) => {
          if (!done) return;
          added(`${good} line${good === 1 ? "" : "s"} added to the rack.`);
          close();
        },
      },
    );
  return (
    <div className="mt-4 flex flex-wrap gap-2 border-t border-line pt-3">
      <a className={`${buttonLook()} flex-1`} href="/api/rack/wheels.csv" download>
        Save as CSV
      </a>
      <FileButton
        label="CSV file"
        accept=".csv,text/csv"
        className="flex-1"
        most={5}
        take={(chosen) => {
          setFile(chosen);
          csv.mutate({ file: chosen, put: false, same: "add" });
        }}
      >
        Read a CSV
      </FileButton>
      {file && (
        <DialogFrame title={file.name} close={close} wide="max-w-3xl">
          {error && (
            <Callout role="alert" tone="wrong" as="p" className="mt-3">
              {error.message}
            </Callout>
          )}
          {checked && (
            <>
              <Callout role="status" as="p" tone={checked.bad ? "wrong" : "good"} className="mt-3">
                {checked.bad
                  ? `${checked.bad} of ${checked.good + checked.bad} lines cannot be used. Nothing is put in until they are right.`
                  : `All ${checked.good} lines can be used. `}
              </Callout>
              {checked.unused.length > 0 && (
                <Callout tone="note" as="p" className="mt-2">
                  Not read, for they mean nothing here: {checked.unused.join(", ")}.
                </Callout>
              )}
              {checked.there > 0 && (
                <div className="mt-2">
                  <Choice
                    label={`${checked.there} of the lines are in the rack already`}
                    value={same}
                    options={[
                      ["skip", "leave them out"],
                      ["replace", "make their counts as in the file"],
                      ["add", "add them beside what is there"],
                    ]}
                    change={setSame}
                  />
                </div>
              )}
              <table className="mt-3 w-full border-collapse text-left text-lesser">
                <thead>
                  <tr className="border-b-2 border-ink text-fine text-soft">
                    <th scope="col" className="py-1 pr-3 font-normal">
                      Line
                    </th>
                    {COLUMNS.map((head) => (
                      <th
                        key={head}
                        scope="col"
                        className={`py-1 pr-3 font-normal ${column(head)}`}
                      >
                        {head}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {checked.lines.map((line) => (
                    <Line key={line.number} line={line} />
                  ))}
                </tbody>
              </table>
            </>
          )}
          <div className="mt-4 flex gap-2">
            <Button
              look="main"
              onClick={put}
              disabled={!checked || checked.bad > 0 || csv.isPending}
            >
              Add to rack
            </Button>
            <Button onClick={close}>Cancel</Button>
          </div>
        </DialogFrame>
      )}
    </div>
  );
}

function Line({
  line,
}: {
  line: { number: number; cells: Record<string, string>; problem: string | null };
}) {
  return (
    <>
      <tr className={line.problem ? "bg-oxide-bg" : "border-b border-line"}>
        <td className="pr-3 font-mono text-soft">{line.number}</td>
        {COLUMNS.map((name) => (
          <td key={name} className={`max-w-40 truncate py-1 pr-3 ${column(name)}`}>
            {line.cells[name]}
          </td>
        ))}
      </tr>
      {line.problem && (
        <tr className="border-b border-line bg-oxide-bg">
          <td />
          <td colSpan={COLUMNS.length} className="pb-1 text-oxide">
            {line.problem}
          </td>
        </tr>
      )}
    </>
  );
}

import { useState } from "react";

import { refusedAt, type Schemas } from "../../api/client";
import { useLookAtFile, useTakeFileIn } from "../../api/shop";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { Button, buttonLook } from "../../kit/Button";
import { dayAndTime } from "../../kit/date";
import { DialogFrame } from "../../kit/DialogFrame";
import { FileButton } from "../../kit/FileButton";
import { Select } from "../../kit/Select";

type ShownTrain = Schemas["FileLookOut"];
type Thing = Schemas["CarriedThing"];
type Choice = Schemas["Choice"];
const MOST_MB = 40;
const STANDING: Record<Thing["standing"], string> = {
  new: "new",
  same: "the same",
  different: "different",
};

/** The shop as a file that others can read; and another's file, looked at and taken in. */
export function CarriedFile() {
  const { units } = usePreferences();
  const look = useLookAtFile(units);
  const wrong = refusedAt(look.error);
  return (
    <section aria-label="Export and import" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Export and import</h2>
      <p className="mt-1">
        The shop as a file that other programs can read: a zip with its records, photographs, and
        tables for a spreadsheet.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <a className={buttonLook()} href="/api/shop/file.zip" download>
          Export the shop
        </a>
        <FileButton
          label="File of a shop"
          accept=".zip,application/zip"
          most={MOST_MB}
          disabled={look.isPending}
          take={(file) => look.mutate(file)}
        >
          Import …
        </FileButton>
      </div>
      {wrong("file") && (
        <p role="alert" className="mt-2 text-oxide">
          {wrong("file")}
        </p>
      )}
      {look.error && !wrong("file") && <Failure error={look.error} />}
      {look.data && <Look looked={look.data} close={look.reset} />}
    </section>
  );
}

/** What a file has beside what is here, one by one, before anything is changed. */
function Look({ looked, close }: { looked: ShownTrain; close: () => void }) {
  const take = useTakeFileIn();
  const tell = useTell();
  const [choices, setChoices] = useState<Record<string, Choice>>({});
  const takeIn = () =>
    take.mutate(
      { token: looked.token, choices },
      {
        onSuccess: ({ text }) => {
          tell({ text, done: true });
          close();
        },
      },
    );
  const nothing = looked.things.length === 0;
  return (
    <DialogFrame title={`File of ${dayAndTime(looked.made)}`} close={close}>
      <p>{nothing ? "Everything in it is here already." : `In it: ${looked.text}.`}</p>
      {!nothing && (
        <ul className="mt-2 border border-line bg-paper">
          {looked.things.map((thing) => (
            <li
              key={thing.key}
              className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3 py-1.5 last:border-b-0"
            >
              <span className="min-w-40 flex-1">
                {thing.text}
                <span className="block text-fine text-soft">{STANDING[thing.standing]}</span>
              </span>
              <span className="w-36">
                <Select
                  aria-label={`What is done with: ${thing.text}`}
                  value={choices[thing.key] ?? thing.choices[0]?.choice}
                  onChange={(event) =>
                    setChoices({ ...choices, [thing.key]: event.target.value as Choice })
                  }
                >
                  {thing.choices.map(({ choice, text }) => (
                    <option key={choice} value={choice}>
                      {text}
                    </option>
                  ))}
                </Select>
              </span>
            </li>
          ))}
        </ul>
      )}
      {looked.more > 0 && (
        <p className="mt-1">
          And {looked.more} more: what is new is added, what is different stays as it is here.
        </p>
      )}
      {take.error && <Failure error={take.error} />}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="main" disabled={nothing || take.isPending} onClick={takeIn}>
          Import
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </DialogFrame>
  );
}

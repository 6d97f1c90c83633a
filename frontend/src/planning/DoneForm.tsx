import { useState } from "react";

import { refusedAt, type Schemas } from "../api/client";
import type { Outcome } from "../api/log";
import { Failure } from "../app/Notice";
import { usePreferences } from "../app/preferences";
import { useTell } from "../app/Toast";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Form";
import { TextField } from "../kit/TextField";

export const OUTCOMES: [Outcome, string][] = [
  ["ran_free", "Ran free"],
  ["tight", "Tight"],
  ["scrapped", "Scrapped"],
];
const TRIED: [Schemas["DoneIn"]["tried"], string][] = [
  ["", "nothing"],
  ["nut", "a nut"],
  ["gauge", "a gauge"],
  ["mate", "its mate"],
];

type DoneReport = Required<
  Pick<Schemas["DoneIn"], "outcome" | "pieces" | "tried" | "minutes" | "note" | "by">
>;

/** One tap says how it came out. since: the time of day from which the minutes are counted, where that is known. */
export function DoneForm(props: {
  ask: string;
  since?: string;
  pending: boolean;
  error: Error | null;
  say: (report: DoneReport, then: () => void) => void;
}) {
  const tell = useTell();
  const { initials, setInitials } = usePreferences();
  const [note, setNote] = useState("");
  const [pieces, setPieces] = useState("1");
  const [minutes, setMinutes] = useState("");
  const [tried, setTried] = useState<DoneReport["tried"]>("");
  const wrong = refusedAt(props.error);
  const many = /^\d{1,5}$/.test(pieces.trim()) && Number(pieces) > 0;
  const took = minutes.trim() === "" || (/^\d{1,4}$/.test(minutes.trim()) && Number(minutes) > 0);
  const say = (outcome: Outcome, name: string) =>
    props.say(
      {
        outcome,
        pieces: Number(pieces),
        tried,
        minutes: minutes.trim() === "" ? null : Number(minutes),
        note,
        by: initials,
      },
      () => {
        setNote("");
        setMinutes("");
        tell({ text: `In the log: ${props.ask}, ${name.toLowerCase()}.`, done: true });
      },
    );
  return (
    <>
      <div className="mt-1 grid grid-cols-2 gap-2">
        <TextField
          label="Pieces"
          value={pieces}
          onChange={setPieces}
          problem={many ? wrong("pieces") : "Enter a whole number."}
          numeric
        />
        <Choice label="Tried with" value={tried} options={TRIED} change={setTried} />
        <TextField
          label="Minutes it took"
          value={minutes}
          onChange={setMinutes}
          problem={took ? wrong("minutes") : "Enter whole minutes, or leave it empty."}
          note={props.since && `Empty: counted since ${props.since}`}
          numeric
        />
        <TextField
          label="Initials"
          value={initials}
          onChange={(next) => setInitials(next.slice(0, 12))}
          problem={wrong("by")}
        />
      </div>
      <TextField label="Note" value={note} onChange={setNote} problem={wrong("note")} />
      <div className="mt-2 flex flex-wrap gap-2">
        {OUTCOMES.map(([outcome, name]) => (
          <Button
            key={outcome}
            className="flex-1 px-2! whitespace-nowrap"
            disabled={props.pending || !many || !took}
            onClick={() => say(outcome, name)}
          >
            {name}
          </Button>
        ))}
      </div>
      {props.error && !wrong("note") && !wrong("by") && !wrong("minutes") && (
        <Failure error={props.error} />
      )}
    </>
  );
}

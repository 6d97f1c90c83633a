import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type Job, type JobForm, usePutJob } from "../../api/jobs";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";

/** Material, workholding, dividing, cutter and passes of a job; saved together. */
export function Choices({ job }: { job: Job }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<JobForm>(job.typed);
  const [base, setBase] = useState<JobForm>(job.typed);
  const put = usePutJob(job.id, units);
  const key = JSON.stringify(job.typed);
  const [saved, setSaved] = useState(key);
  if (saved !== key) {
    const theirs = JSON.parse(key) as JobForm;
    setSaved(key);
    setTyped(merged(base, typed, theirs));
    setBase(theirs);
  }
  const wrong = refusedAt(put.error);
  const change = (changes: Partial<JobForm>) => {
    setTyped({ ...typed, ...changes });
    put.reset();
  };
  const text = (name: TextName, label: string, example: string) => (
    <TextField
      label={label}
      value={typed[name] ?? ""}
      onChange={(value) => change({ [name]: value })}
      example={example}
      problem={wrong(name)}
    />
  );
  const material = job.materials.find((m) => m.material === typed.material);
  const school = job.schools.find((s) => (typed.school ? s.school === typed.school : s.proposed));
  const bolted = school?.school === "bolted";
  const way =
    typed.way === "wheel" || typed.way === "disc" ? typed.way : `${typed.head} ${typed.number}`;
  const changed = touched(base, typed).length > 0;
  const ways = job.ways.filter((w) => !school || school.machines.includes(w.machine ?? ""));
  return (
    <form
      className="mt-3 flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        put.mutate(typed);
      }}
    >
      <Choice
        label="Material"
        value={typed.material ?? "cast iron"}
        options={job.materials.map((m) => [m.material, m.material])}
        change={(next) => change({ material: next })}
      />
      {material && (
        <p className="text-fine text-soft">
          {material.text}
          {material.hazard && <b className="block text-oxide">{material.hazard}</b>}
        </p>
      )}
      <Choice
        label="Held"
        value={typed.school ?? ""}
        options={[
          ["", `as proposed: ${job.schools.find((s) => s.proposed)?.name.toLowerCase()}`],
          ...job.schools.map((s): [string, string] => [s.school, s.name]),
        ]}
        change={(next) => {
          // How it is held and what it is divided on are one choice.
          const held = job.schools.find((s) => (next ? s.school === next : s.proposed));
          const stays =
            typed.way === "wheel" || typed.way === "disc"
              ? held?.[typed.way]
              : held?.machines.includes(typed.head ?? "");
          change({
            school: (next || null) as JobForm["school"],
            ...(stays ? {} : { way: null, head: "", number: 0 }),
          });
        }}
      />
      {wrong("school") && <p className="text-oxide">{wrong("school")}</p>}
      {school && <p className="text-fine text-soft">{school.text}.</p>}
      {school?.school === "donor"
        ? job.donors.length > 0 && (
            <Piece
              label="Cut down from"
              pieces={job.donors}
              value={typed.donor ?? null}
              change={(donor) => change({ donor })}
              problem={wrong("donor")}
            />
          )
        : job.bars.length > 0 && (
            <Piece
              label="From bar"
              pieces={job.bars}
              value={typed.bar ?? null}
              change={(bar) => change({ bar })}
              problem={wrong("bar")}
            />
          )}
      {!job.lead && (
        <>
          <Choice
            label="Divided"
            value={typed.way || typed.head ? way : ""}
            options={[
              ["", "the best there is"],
              ...ways.map((w): [string, string] => [
                `${w.machine} ${w.number}`,
                `${w.text}, ${w.machine_name}`,
              ]),
              ...(school?.wheel ? [["wheel", "a wheel as its own plate"] as [string, string]] : []),
              ...(school?.disc ? [["disc", "a printed disc"] as [string, string]] : []),
            ]}
            change={(next) => {
              const [head = "", number = "0"] = next.split(" ");
              const choice = job.ways.find(
                (w) => w.machine === head && w.number === Number(number),
              );
              if (next === "wheel" || next === "disc") change({ way: next, head: "", number: 0 });
              else
                change({
                  way: choice?.kind ?? null,
                  head: choice ? head : "",
                  number: Number(number),
                });
            }}
          />
          {typed.way === "wheel" && text("template", "Its teeth", "114")}
          {wrong("number") && <p className="text-oxide">{wrong("number")}</p>}
        </>
      )}
      <div className="flex gap-2">
        {text("how_many", "Wheels alike", "1")}
        {text("cutter", "Cutter diameter", "63 mm")}
      </div>
      {!job.lead && (
        <>
          <div className="flex gap-2">
            {text("jaw_gap", bolted ? "Height of the blocks" : "Gap blank to jaws", "12 mm")}
            {text("jaw_radius", bolted ? "Blocks reach" : "Jaw length", "55 mm")}
          </div>
          <div className="flex gap-2">
            {text("nut", "Nut height", "none")}
            {text("nut_across", "Nut across flats", "none")}
          </div>
          <div className="flex gap-2">
            {text("collar", "Collar of the arbor", "36 mm")}
            {text("centre", "Axis over table", "127 mm")}
          </div>
        </>
      )}
      {text("passes", "Passes, from touching", "2.7 4.1 4.57")}
      <Choice
        label="Order"
        value={typed.order ?? "round_by_round"}
        options={[
          ["round_by_round", "round by round"],
          ["gap_by_gap", "every gap to depth"],
        ]}
        change={(order) => change({ order })}
      />
      <Checkbox
        label="Marks once round first"
        ticked={typed.marks ?? true}
        change={(marks) => change({ marks })}
      />
      <TextField label="Note" value={typed.note ?? ""} onChange={(note) => change({ note })} />
      {job.cutting && (
        <p className="text-fine text-soft">
          The session goes on as it was begun; changes here do not move it.
        </p>
      )}
      <Button look="main" type="submit" disabled={!changed || put.isPending}>
        Save
      </Button>
      {put.error && ![...NAMES, "number", "bar", "donor", "school"].some(wrong) && (
        <p role="alert" className="text-oxide">
          {put.error.message}
        </p>
      )}
    </form>
  );
}

/** The fields in which one differs from the other, but for the version. */
function touched(base: JobForm, mine: JobForm): (keyof JobForm)[] {
  const names = Object.keys({ ...base, ...mine }) as (keyof JobForm)[];
  return names.filter((name) => name !== "version" && (base[name] ?? "") !== (mine[name] ?? ""));
}

/** What is typed here stays where somebody else changed the job; the rest is as it is now. Where both changed the same,
 * the older version is kept, so that whoever saves is asked whose change is to stand. */
function merged(base: JobForm, mine: JobForm, theirs: JobForm): JobForm {
  const own = touched(base, mine);
  const clash = own.some(
    (name) => theirs[name] !== base[name] && (theirs[name] ?? "") !== (mine[name] ?? ""),
  );
  return {
    ...theirs,
    ...Object.fromEntries(own.map((name) => [name, mine[name]])),
    version: clash ? base.version : theirs.version,
  };
}

/** A piece of what the shop holds, or another one. */
function Piece({
  label,
  pieces,
  value,
  change,
  problem,
}: {
  label: string;
  pieces: { record: number; name: string; text: string }[];
  value: number | null;
  change: (record: number | null) => void;
  problem: string | undefined;
}) {
  const chosen = pieces.find((p) => p.record === value);
  return (
    <>
      <Choice
        label={label}
        value={value === null ? "" : String(value)}
        options={[
          ["", "another piece"],
          ...pieces.map((p): [string, string] => [String(p.record), p.name]),
          // What was chosen and cannot be had any more stays in the field.
          ...(value !== null && !chosen
            ? [[String(value), "one that is gone"] as [string, string]]
            : []),
        ]}
        change={(next) => change(next ? Number(next) : null)}
      />
      {chosen && <p className="text-fine text-soft">{chosen.text}</p>}
      {problem && (
        <p role="alert" className="text-oxide">
          {problem}
        </p>
      )}
    </>
  );
}

const NAMES = [
  "how_many",
  "template",
  "cutter",
  "collar",
  "jaw_gap",
  "jaw_radius",
  "nut",
  "nut_across",
  "centre",
  "passes",
] as const;
type TextName = (typeof NAMES)[number];

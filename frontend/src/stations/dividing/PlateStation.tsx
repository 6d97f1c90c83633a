import { useState } from "react";
import { useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import { type PlateAsk, plateFile, useNewPlate } from "../../api/dividing";
import { useMachines } from "../../api/machines";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { Stale } from "../../kit/Stale";
import { Button, buttonLook } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";

/** Which circle would give a count on a head, whether it fits, and how it is drilled. */
export default function PlateStation() {
  const { units } = usePreferences();
  const machines = useMachines();
  const [search, setSearch] = useSearchParams();
  const heads = machines.data?.filter((m) => m.divides && !m.archived) ?? [];
  const machine = search.get("on") ?? heads[0]?.slug ?? "";
  const typed = (name: string, usual: string) => search.get(name) ?? usual;
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    next.set(name, value);
    if (name === "divisions" || name === "on") next.delete("holes");
    setSearch(next, { replace: true });
  };
  const request: PlateAsk = {
    divisions: typed("divisions", "127"),
    holes: typed("holes", ""),
    diameter: typed("diameter", ""),
    hole: typed("hole", "3 mm"),
  };
  const settled = useDebouncedValue(request, 250);
  const plate = useNewPlate(machine, settled, units);
  const { data: answer, ...aged } = useLastGood(plate, `${machine} ${units}`);
  const [drawn, setDrawn] = useState(settled);
  if (plate.data && drawn !== settled) setDrawn(settled);
  const wrong = refusedAt(plate.error);
  return (
    <div className="grid h-full grid-cols-[360px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
      <section
        aria-label="A new plate"
        className="grid auto-rows-max content-start gap-3 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
      >
        <h1 className="text-heading font-bold">A new plate</h1>
        <Choice
          label="For"
          value={machine}
          options={heads.map((h) => [h.slug, h.name])}
          change={(on) => set("on", on)}
        />
        <TextField
          label="Divisions wanted"
          value={typed("divisions", "127")}
          onChange={(v) => set("divisions", v)}
          problem={wrong("divisions")}
          numeric
        />
        {plate.isFetching && !answer && <Working text="Looking for a way to drill it …" />}
        {answer && (
          <div>
            <p className="text-fine text-soft">A circle of any of these gives them</p>
            <div className="mt-1 flex flex-wrap gap-2">
              {answer.serving.map((holes) => (
                <Button
                  key={holes}
                  look={holes === answer.holes ? "main" : "plain"}
                  onClick={() => set("holes", String(holes))}
                >
                  {holes}
                </Button>
              ))}
              {answer.serving.length === 0 && <p>None of up to 400 holes.</p>}
            </div>
          </div>
        )}
        <div className="flex gap-2">
          <TextField
            label="Circle across"
            value={typed("diameter", "")}
            onChange={(v) => set("diameter", v)}
            example={answer?.diameter_text}
            problem={wrong("diameter")}
          />
          <TextField
            label="Holes of"
            value={typed("hole", "3 mm")}
            onChange={(v) => set("hole", v)}
            problem={wrong("hole")}
          />
        </div>
        {plate.error && !["divisions", "diameter", "hole", "holes"].some(wrong) && (
          <Failure error={plate.error} retry={() => void plate.refetch()} />
        )}
        {answer && (
          <Stale {...aged}>
            <Callout role="status" tone={answer.fits ? "good" : "wrong"}>
              {answer.texts.map((text) => (
                <p key={text}>{text}</p>
              ))}
            </Callout>
          </Stale>
        )}
        {answer && (
          <Stale {...aged} className="grid gap-3 *:first:grid *:first:gap-3">
            <h2 className="font-bold">How to drill it</h2>
            <p>{answer.drilling}</p>
            {answer.generations.map((text) => (
              <p key={text} className="text-lesser">
                {text}
              </p>
            ))}
            {answer.generations.length > 1 && (
              <p className="text-lesser text-soft">
                Put each plate on the head and drill the next one through the worm.
              </p>
            )}
            <div className="flex gap-2">
              <a className={buttonLook()} href={plateFile(machine, settled, "csv", units)} download>
                Holes as CSV
              </a>
              <a className={buttonLook()} href={plateFile(machine, settled, "dxf", units)} download>
                DXF
              </a>
            </div>
          </Stale>
        )}
      </section>
      <section aria-label="How it looks" className="relative min-h-0 bg-paper tall:h-[700px]">
        {answer && (
          <Stale {...aged} note className="h-full">
            <img
              src={plateFile(machine, drawn, "svg", units)}
              alt={`a circle of ${answer.holes} holes at its true proportions`}
              className="absolute inset-4 h-[calc(100%-2rem)] w-[calc(100%-2rem)] bg-white object-contain"
            />
          </Stale>
        )}
      </section>
    </div>
  );
}

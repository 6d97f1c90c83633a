import { useState } from "react";

import { type Family, refusedAt, type Schemas } from "../../api/client";
import { NO_READINGS, type Readings, useAddFromPhoto } from "../../api/rack";
import { Failure } from "../../app/Notice";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { FamilySelect } from "../../kit/FamilySelect";
import { TextField } from "../../kit/TextField";
import { IdentifyPanel } from "./IdentifyPanel";

type Wheel = Schemas["PhotoWheelOut"];

/** One wheel that was counted: put right by hand, found out, and into the rack with its picture. */
export function PhotoTeeth({
  wheel,
  number,
  file,
  families,
  added,
}: {
  wheel: Wheel;
  number?: number;
  file: File;
  families: Family[];
  added: (text: string) => void;
}) {
  const [teeth, setTeeth] = useState(String(wheel.teeth));
  const [family, setFamily] = useState<number | null>(null);
  const [there, setThere] = useState("");
  const adding = useAddFromPhoto();
  const wrong = refusedAt(adding.error);
  const readings = measured(wheel);
  const add = () =>
    adding.mutate(
      {
        file,
        teeth,
        family,
        // What the picture says of it is kept, for whoever finds it out later.
        readings: teeth.trim() === readings?.teeth ? readings : undefined,
      },
      {
        onSuccess: () => {
          setThere(teeth);
          added(`Added to the rack: ${teeth}, with its picture.`);
        },
      },
    );
  return (
    <section className="mt-3 border-t border-line pt-2">
      <p>
        {number !== undefined && <b>Wheel {number}: </b>}
        {wheel.text}
        {wheel.sizes && ` It measures ${wheel.sizes}.`}
      </p>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <TextField
          label="Teeth"
          className="max-w-20"
          value={teeth}
          onChange={setTeeth}
          problem={wrong("wheels")}
          numeric
        />
        <FamilySelect
          label="Family"
          none="not identified"
          families={families}
          value={family}
          change={setFamily}
        />
        {there ? (
          <b className="flex min-h-11 items-center">In the rack as {there}</b>
        ) : (
          <Button look="main" disabled={adding.isPending} onClick={add}>
            Add as {teeth}
          </Button>
        )}
      </div>
      {adding.error && !wrong("wheels") && <Failure error={adding.error} />}
      {readings && (
        <Disclosure title="What wheel is it?">
          <IdentifyPanel
            readings={readings}
            keep={null}
            families={families}
            becomes={(one) => setFamily(one.id)}
          />
        </Disclosure>
      )}
    </section>
  );
}

/** What the picture says of a wheel, as readings; undefined where no length is known. */
function measured(wheel: Wheel): Readings | undefined {
  if (wheel.tip_mm === null) return undefined;
  return {
    ...NO_READINGS,
    teeth: String(wheel.teeth),
    tip_diameter: `${wheel.tip_mm} mm`,
    tip_method: "true",
    tip_off: wheel.tip_off_mm === null ? "" : `${wheel.tip_off_mm} mm`,
    bore: wheel.bore_mm === null ? "" : `${wheel.bore_mm} mm`,
  };
}

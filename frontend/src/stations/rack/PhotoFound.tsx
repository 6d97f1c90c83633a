import { useState } from "react";

import { type Family, refusedAt, type Schemas } from "../../api/client";
import { NO_READINGS, type Readings, useChangeRack, useIdentify } from "../../api/rack";
import { usePhoto } from "../../api/stores";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { FamilySelect } from "../../kit/FamilySelect";
import { TextField } from "../../kit/TextField";
import { IdentifyPanel } from "./IdentifyPanel";

type Wheel = Schemas["PhotoWheelOut"];

/** One wheel that was counted: put right by hand, found out, and into the rack with its picture. */
export function PhotoFound({
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
  const { units } = usePreferences();
  const [teeth, setTeeth] = useState(String(wheel.teeth));
  const [family, setFamily] = useState<number | null>(null);
  const [there, setThere] = useState("");
  const change = useChangeRack();
  const photo = usePhoto();
  const identify = useIdentify(units);
  const wrong = refusedAt(change.error);
  const readings = measured(wheel);
  const add = () =>
    change.mutate(
      {
        do: "add",
        pile: {
          wheels: teeth,
          family,
          machine: null,
          place: "",
          material: "",
          note: "",
          planned: false,
        },
      },
      {
        onSuccess: ({ ids }) => {
          const id = ids[0];
          const done = () => {
            setThere(teeth);
            added(`Added to the rack: ${teeth}, with its picture.`);
            // What the picture says of it is kept, for whoever finds it out later.
            if (id !== undefined && readings && teeth.trim() === readings.teeth)
              identify.mutate({ wheels: [readings], keep: family === null ? id : null });
          };
          if (id === undefined) done();
          else photo.mutate({ wheel: id, file }, { onSuccess: done });
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
          <Button look="main" disabled={change.isPending || photo.isPending} onClick={add}>
            Add as {teeth}
          </Button>
        )}
      </div>
      {change.error && !wrong("wheels") && <Failed error={change.error} />}
      {photo.error && <Failed error={photo.error} />}
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

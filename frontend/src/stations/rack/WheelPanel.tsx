import type { ReactNode } from "react";

import type { Family, RackWheel } from "../../api/client";
import { useMachines } from "../../api/machines";
import { usePhoto } from "../../api/stores";
import { Button } from "../../kit/Button";
import { FileButton } from "../../kit/FileButton";
import { Disclosure } from "../../kit/Disclosure";
import { useTell } from "../../app/Toast";
import { SourcesPanel } from "./SourcesPanel";
import { MakeLink } from "../../planning/MakeLink";

/** One chosen wheel: its picture, what it is, and how to get another, or one that is missing. */
export function WheelPanel({
  wheel,
  family,
  done,
  close,
  identify,
  fields,
}: {
  wheel: RackWheel;
  family?: Family;
  done: (text: string) => void;
  close: () => void;
  identify: ReactNode;
  /** What is on record of it, to be changed. */
  fields: ReactNode;
}) {
  const missing = wheel.count === 0;
  const owner = useMachines().data?.find((m) => m.slug === wheel.machine)?.name;
  return (
    <div className="flex flex-col gap-3">
      <div className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-heading font-bold">
            {missing ? "A missing " : "The "}
            <span className="font-mono">{wheel.teeth}</span>
          </h2>
          <p className="text-lesser text-soft">
            {[family?.name ?? "not identified", wheel.shifted, wheel.place, wheel.note]
              .filter(Boolean)
              .join(", ")}
          </p>
        </div>
        <Button look="quiet" onClick={close} aria-label="Close">
          ✕
        </Button>
      </div>
      {family && fields}
      {family && missing && (
        <>
          <MakeLink teeth={wheel.teeth} machine={owner} text="Make it: a job" />
          <SourcesPanel family={family.id} teeth={wheel.teeth} />
        </>
      )}
      {!family && identify}
      {!family && fields}
      {!missing && <Photo wheel={wheel} done={done} />}
      {family && !missing && (
        <>
          <Disclosure title="What is it? Measure it">{identify}</Disclosure>
          <Disclosure title="How to get another">
            <SourcesPanel family={family.id} teeth={wheel.teeth} />
          </Disclosure>
        </>
      )}
    </div>
  );
}

/** Its photograph, and a way to put one there. */
function Photo({ wheel, done }: { wheel: RackWheel; done: (text: string) => void }) {
  const photo = usePhoto();
  const tell = useTell();
  return (
    <div className="flex flex-col gap-2">
      {wheel.photo && (
        <img
          src={`/api/rack/photos/${wheel.photo}`}
          alt={`the ${wheel.teeth} as it was photographed`}
          className="max-h-56 w-full border border-line bg-paper object-contain"
        />
      )}
      <FileButton
        label="Photograph"
        accept="image/jpeg,image/png,image/webp"
        look="quiet"
        most={15}
        disabled={photo.isPending}
        take={(file) =>
          photo.mutate(
            { wheel: wheel.id, file },
            {
              onSuccess: () => done(`The ${wheel.teeth} has a photograph.`),
              onError: (error) => tell({ text: error.message }),
            },
          )
        }
      >
        {wheel.photo ? "Another photograph" : "Add a photograph"}
      </FileButton>
    </div>
  );
}

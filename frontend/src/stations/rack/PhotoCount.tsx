import { type ClipboardEvent, type DragEvent, useEffect, useState } from "react";

import { type Family, refusedAt, type Schemas } from "../../api/client";
import { useChangeRack, useCountPhoto } from "../../api/rack";
import { usePhoto } from "../../api/stores";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { DialogFrame } from "../../kit/DialogFrame";
import { FamilySelect } from "../../kit/FamilySelect";
import { FileButton } from "../../kit/FileButton";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";

type Wheel = Schemas["PhotoWheelOut"];
const ACCEPT = "image/jpeg,image/png,image/webp";
// MB; the server reads no more.
const MOST = 15;
// Every tenth tooth is numbered; of more than so many the marks are small.
const [EVERY, MANY] = [10, 40];

/** Wheels counted in a photograph: the count is painted onto it, and a wheel that is right goes into the rack. */
export function PhotoCount(props: { families: Family[]; added: (text: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" className="mt-3 w-full" onClick={() => setOpen(true)}>
        Count from a picture
      </Button>
      {open && <Counting {...props} close={() => setOpen(false)} />}
    </>
  );
}

function Counting({
  families,
  added,
  close,
}: {
  families: Family[];
  added: (text: string) => void;
  close: () => void;
}) {
  const { units } = usePreferences();
  const [picture, setPicture] = useState<{ file: File; address: string }>();
  const [bore, setBore] = useState("");
  const [at, setAt] = useState<{ x: number; y: number }>();
  const count = useCountPhoto(units);
  const wrong = refusedAt(count.error);
  // The picture is shown from the device; its address holds memory until it is given back.
  useEffect(
    () => () => {
      if (picture) URL.revokeObjectURL(picture.address);
    },
    [picture],
  );
  const ask = (file: File, known: string, middle?: { x: number; y: number }) =>
    count.mutate({ file, bore: known, at: middle });
  const take = (file: File) => {
    setPicture({ file, address: URL.createObjectURL(file) });
    setAt(undefined);
    ask(file, bore);
  };
  const first = (files: FileList | undefined | null) => {
    const file = [...(files ?? [])].find((one) => one.type.startsWith("image/"));
    if (file) take(file);
  };
  return (
    <DialogFrame title="Count from a picture" close={close} wide="max-w-3xl">
      <div
        onPaste={(event: ClipboardEvent) => first(event.clipboardData.files)}
        onDragOver={(event: DragEvent) => event.preventDefault()}
        onDrop={(event: DragEvent) => {
          event.preventDefault();
          first(event.dataTransfer.files);
        }}
      >
        <p className="mt-1 text-soft">
          Take it from straight above, the whole wheel in the picture. Several wheels may lie apart.
        </p>
        <div className="mt-3 flex flex-wrap items-end gap-2">
          <FileButton label="Picture of a wheel" accept={ACCEPT} most={MOST} take={take}>
            {picture ? "Another picture" : "Take or choose a picture"}
          </FileButton>
          <TextField
            label="Its bore, for the diameters"
            className="max-w-44 phone:order-last phone:max-w-none phone:basis-full"
            value={bore}
            onChange={setBore}
            problem={wrong("bore")}
            example="16 mm"
          />
          <Button
            disabled={!picture || count.isPending}
            onClick={() => picture && ask(picture.file, bore, at)}
          >
            Count again
          </Button>
        </div>
        {picture && (
          <Painted
            address={picture.address}
            wheels={count.data?.wheels ?? []}
            tap={(middle) => {
              setAt(middle);
              ask(picture.file, bore, middle);
            }}
          />
        )}
        {count.isPending && <Working text="Counting …" />}
        {wrong("photo") && (
          <p role="alert" className="mt-2 text-oxide">
            {wrong("photo")}
          </p>
        )}
        {count.error && !wrong("photo") && !wrong("bore") && <Failed error={count.error} />}
        {count.data?.says && (
          <Callout tone="note" className="mt-2">
            {count.data.says} A tap on the picture shows the middle of a wheel.
          </Callout>
        )}
        <div role="status" aria-label="Counted">
          {picture &&
            count.data?.wheels.map((wheel, n) => (
              <Found
                key={`${n} ${wheel.teeth}`}
                wheel={wheel}
                number={count.data.wheels.length > 1 ? n + 1 : undefined}
                file={picture.file}
                families={families}
                added={added}
              />
            ))}
        </div>
        <Button className="mt-4" onClick={close}>
          Close
        </Button>
      </div>
    </DialogFrame>
  );
}

/** The picture with a mark at each tooth, every tenth numbered; a tap shows the middle of a wheel. */
function Painted({
  address,
  wheels,
  tap,
}: {
  address: string;
  wheels: Wheel[];
  tap: (middle: { x: number; y: number }) => void;
}) {
  return (
    <div className="relative mt-3 w-fit">
      <button
        type="button"
        aria-label="Show the middle of a wheel"
        className="block cursor-crosshair"
        onClick={(event) => {
          // A key shows no place.
          if (event.detail === 0) return;
          const box = event.currentTarget.getBoundingClientRect();
          tap({
            x: (event.clientX - box.left) / box.width,
            y: (event.clientY - box.top) / box.height,
          });
        }}
      >
        <img src={address} alt="" className="max-h-[60vh] max-w-full border border-line" />
      </button>
      <div aria-hidden className="pointer-events-none absolute inset-0">
        {wheels.flatMap((wheel, w) =>
          wheel.marks.map((mark, n) => (
            <Mark key={`${w} ${n}`} mark={mark} number={n + 1} teeth={wheel.teeth} />
          )),
        )}
        {wheels.map((wheel, w) => (
          <span
            key={w}
            className="absolute -translate-x-1/2 -translate-y-1/2 rounded-sm bg-paper px-1.5 font-mono text-large font-bold text-ink"
            style={{ left: `${wheel.x * 100}%`, top: `${wheel.y * 100}%` }}
          >
            {wheel.teeth}
            {!wheel.sure && "?"}
          </span>
        ))}
      </div>
    </div>
  );
}

function Mark({
  mark,
  number,
  teeth,
}: {
  mark: Schemas["ToothMark"];
  number: number;
  teeth: number;
}) {
  const named = number === 1 || number % EVERY === 0;
  const size =
    teeth > MANY && !mark.doubtful ? "-top-0.5 -left-0.5 size-1" : "-top-1 -left-1 size-2";
  const shape = mark.doubtful
    ? "rotate-45 rounded-none bg-oxide outline-2 outline-[#f7f6f0]"
    : "rounded-full bg-[#f7f6f0] outline-1 outline-[#1d2a28]";
  return (
    <span className="absolute" style={{ left: `${mark.x * 100}%`, top: `${mark.y * 100}%` }}>
      <span className={`absolute ${size} ${shape}`} />
      {named && (
        <span className="absolute -translate-x-1/2 translate-y-1 rounded-sm bg-[#1d2a28] px-0.5 font-mono text-[11px] leading-tight text-[#f7f6f0]">
          {number}
        </span>
      )}
    </span>
  );
}

/** One wheel that was counted: put right by hand, and into the rack with its picture. */
function Found({
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
  const change = useChangeRack();
  const photo = usePhoto();
  const wrong = refusedAt(change.error);
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
          const done = () => {
            setThere(teeth);
            added(`Added to the rack: ${teeth}, with its picture.`);
          };
          if (ids[0] === undefined) done();
          else photo.mutate({ wheel: ids[0], file }, { onSuccess: done });
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
    </section>
  );
}

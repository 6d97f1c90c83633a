import { type ClipboardEvent, type DragEvent, useEffect, useState } from "react";

import { type Family, refusedAt } from "../../api/client";
import { type KnownInPhoto, useCountPhoto } from "../../api/rack";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { DialogFrame } from "../../kit/DialogFrame";
import { Disclosure } from "../../kit/Disclosure";
import { FileButton } from "../../kit/FileButton";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { PhotoTeeth } from "./PhotoTeeth";
import { type Line, PaintedPhoto, type Place } from "./PaintedPhoto";
import { PICTURES } from "./pictures";

const ACCEPT = "image/jpeg,image/png,image/webp";
// MB; the server reads no more.
const MOST = 15;
const KNOWN: [KnownInPhoto, string][] = [
  ["bore", "its bore"],
  ["tip", "over its tips"],
  ["length", "a line in the picture"],
];

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
  const [known, setKnown] = useState<KnownInPhoto>("bore");
  const [typed, setTyped] = useState("");
  const [line, setLine] = useState<Line>();
  const [shown, setShown] = useState<{ at: Place; rim?: Place; tooth?: Place }>();
  const count = useCountPhoto(units);
  const wrong = refusedAt(count.error);
  const problem = wrong(known);
  const lacksLine = known === "length" && typed.trim() !== "" && !line;
  // The picture is shown from the device; its address holds memory until it is given back.
  useEffect(
    () => () => {
      if (picture) URL.revokeObjectURL(picture.address);
    },
    [picture],
  );
  const now = { known, typed, shown, line };
  const ask = (file: File, more: Partial<typeof now>) => {
    const request = { ...now, ...more };
    count.mutate({
      file,
      known: request.known,
      typed: request.known === "length" && !request.line ? "" : request.typed,
      line: request.line,
      at: request.shown?.at,
      rim: request.shown?.rim,
      tooth: request.shown?.tooth,
    });
  };
  const take = (file: File, bore?: string) => {
    setPicture({ file, address: URL.createObjectURL(file) });
    setShown(undefined);
    setLine(undefined);
    const fresh = { shown: undefined, line: undefined };
    if (bore === undefined) return ask(file, fresh);
    setKnown("bore");
    setTyped(bore);
    ask(file, { ...fresh, known: "bore", typed: bore });
  };
  const first = (files: FileList | undefined | null) => {
    const file = [...(files ?? [])].find((one) => one.type.startsWith("image/"));
    if (file) take(file);
  };
  const show = (next: NonNullable<typeof shown>) => {
    setShown(next);
    if (picture) ask(picture.file, { shown: next });
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
          <div className="flex min-w-72 flex-1 items-end gap-2">
            <Choice label="Known length" value={known} options={KNOWN} change={setKnown} />
            <TextField
              label="How long"
              className="max-w-32"
              value={typed}
              onChange={setTyped}
              problem={problem}
              example="16 mm"
            />
          </div>
          <Button
            disabled={!picture || count.isPending}
            onClick={() => picture && ask(picture.file, {})}
          >
            Count again
          </Button>
        </div>
        {!picture && (
          <Disclosure title="Pictures to try it with">
            <Pictures take={take} />
          </Disclosure>
        )}
        {picture && (
          <PaintedPhoto
            key={picture.address}
            address={picture.address}
            wheels={count.data?.wheels ?? []}
            line={known === "length" ? line : shown?.rim && { from: shown.at, to: shown.rim }}
            tooth={shown?.tooth}
            label="Show the middle of a wheel"
            tap={(place) => show(shown?.rim ? { ...shown, tooth: place } : { at: place })}
            drag={(drawn) => {
              if (known !== "length") return show({ at: drawn.from, rim: drawn.to });
              setLine(drawn);
              ask(picture.file, { line: drawn });
            }}
          />
        )}
        {picture && (
          <p className="mt-1 text-fine text-soft">
            {known === "length"
              ? "Drag over the known length, which lies beside the wheel: a ruler, a coin, another wheel."
              : shown?.rim
                ? "Tap the middle of one tooth, or drag again."
                : "Tap the middle of a wheel, or drag from its middle to its tips, where it is not found."}
          </p>
        )}
        {lacksLine && picture && (
          <Callout tone="hint" className="mt-2">
            Draw a line over that length in the picture.
          </Callout>
        )}
        {count.isPending && <Working text="Counting …" />}
        {wrong("photo") && (
          <p role="alert" className="mt-2 text-oxide">
            {wrong("photo")}
          </p>
        )}
        {count.error && !wrong("photo") && !problem && <Failure error={count.error} />}
        {count.data?.says && (
          <Callout tone="note" className="mt-2">
            {count.data.says}
          </Callout>
        )}
        <div role="status" aria-label="Counted">
          {picture &&
            count.data?.wheels.map((wheel, n) => (
              <PhotoTeeth
                key={`${picture.address} ${n} ${wheel.teeth} ${wheel.tip_mm ?? ""}`}
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

/** Pictures of the demo's wheels, where there is no camera. */
function Pictures({ take }: { take: (file: File, bore: string) => void }) {
  return (
    <ul className="grid grid-cols-5 gap-2 phone:grid-cols-2">
      {PICTURES.map(({ title, bore, address }) => (
        <li key={title}>
          <button
            type="button"
            className="w-full border border-line bg-paper p-1 text-left"
            onClick={() =>
              void fetch(address)
                .then((answer) => answer.blob())
                .then((blob) =>
                  take(new File([blob], `${title}.jpg`, { type: "image/jpeg" }), bore),
                )
            }
          >
            <img src={address} alt="" className="w-full" />
            <span className="text-fine">{title}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

import { type PhotoAbout, useLogPhoto } from "../api/log";
import { usePreferences } from "../app/preferences";
import { useTell } from "../app/Toast";
import { FileButton } from "../kit/FileButton";

// MB; the server reads no more.
const MOST = 15;

/** A photograph of the log, small; a tap shows it as it is kept. */
export function Photograph({ name, of }: { name: string; of: string }) {
  const address = `/api/rack/photos/${name}`;
  return (
    <a href={address} target="_blank" rel="noreferrer" className="mt-1 block w-fit">
      <img
        src={address}
        alt={of}
        loading="lazy"
        className="max-h-40 max-w-full border border-line bg-paper object-contain"
      />
    </a>
  );
}

/** Puts a photograph into the log. about: what it is of; note: said with it; done: it is there. */
export function PhotoButton(props: {
  about?: Pick<PhotoAbout, "machine" | "ask" | "train">;
  note?: string;
  done?: () => void;
}) {
  const photo = useLogPhoto();
  const tell = useTell();
  const { initials } = usePreferences();
  const { machine = "", ask = "", train = "" } = props.about ?? {};
  return (
    <FileButton
      label="Photograph for the log"
      accept="image/jpeg,image/png,image/webp"
      look="quiet"
      most={MOST}
      disabled={photo.isPending}
      take={(file) =>
        photo.mutate(
          { machine, ask, train, note: props.note ?? "", by: initials, file },
          {
            onSuccess: (entry) => {
              tell({ text: `In the log: ${entry.text}` });
              props.done?.();
            },
            onError: (error) => tell({ text: error.message }),
          },
        )
      }
    >
      Add a photograph
    </FileButton>
  );
}

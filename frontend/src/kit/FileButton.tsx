import { type ReactNode, useRef, useState } from "react";

import { Button } from "./Button";

/** A button that asks for a file; the same one may be chosen again. One that the server would not read is refused
 * before it is sent. */
export function FileButton(props: {
  label: string;
  accept: string;
  take: (file: File) => void;
  /** The largest file that the server reads, MB. */
  most: number;
  look?: "plain" | "quiet";
  disabled?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const field = useRef<HTMLInputElement>(null);
  const [tooLarge, setTooLarge] = useState("");
  return (
    <>
      <Button
        look={props.look}
        className={props.className}
        disabled={props.disabled}
        onClick={() => field.current?.click()}
      >
        {props.children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={props.accept}
        aria-label={props.label}
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (!file) return;
          const mb = file.size / 1_000_000;
          setTooLarge(
            mb > props.most
              ? `${file.name} has ${mb.toFixed(1)} MB. Up to ${props.most} MB are read.`
              : "",
          );
          if (mb <= props.most) props.take(file);
        }}
      />
      {tooLarge && (
        <p role="alert" className="basis-full text-fine text-oxide">
          {tooLarge}
        </p>
      )}
    </>
  );
}

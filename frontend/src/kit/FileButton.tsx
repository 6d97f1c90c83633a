import { type ReactNode, useRef } from "react";

import { Button } from "./Button";

/** A button that asks for a file; the same one may be chosen again. */
export function FileButton(props: {
  label: string;
  accept: string;
  take: (file: File) => void;
  look?: "plain" | "quiet";
  disabled?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const field = useRef<HTMLInputElement>(null);
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
          if (file) props.take(file);
        }}
      />
    </>
  );
}

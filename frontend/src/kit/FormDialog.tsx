import { type ReactNode, useState } from "react";

import { DialogFrame } from "./DialogFrame";
import { Leave, LEAVE } from "./Leave";

/** A short form over the screen: Enter sends it, Escape leaves it; it asks first where something was typed. */
export function FormDialog({
  title,
  close,
  submit,
  children,
}: {
  title: string;
  close: () => void;
  submit: () => void;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState(false);
  const [asking, setAsking] = useState(false);
  return (
    <DialogFrame title={title} close={() => (typed ? setAsking(!asking) : close())}>
      <form
        className="mt-3 flex flex-col gap-3"
        onInput={() => setTyped(true)}
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        {children}
      </form>
      {asking && (
        <div role="alert" className="mt-4 border-t-2 border-oxide pt-3">
          <b>{LEAVE}</b>
          <Leave stay={() => setAsking(false)} leave={close} />
        </div>
      )}
    </DialogFrame>
  );
}

import { type ReactNode, useState } from "react";
import { type FieldValues, FormProvider, type UseFormReturn } from "react-hook-form";

import { DialogFrame } from "./DialogFrame";
import { Problems } from "./FormFields";
import { Leave, LEAVE } from "./Leave";

/** A short form over the screen: Enter sends it, Escape leaves it; it asks first where something was typed. */
export function FormDialog<T extends FieldValues>(props: {
  title: string;
  form: UseFormReturn<T>;
  /** What is wrong at a field. */
  wrong: (field: string) => string | undefined;
  close: () => void;
  submit: (typed: T) => void;
  children: ReactNode;
}) {
  const { form, close } = props;
  const [asking, setAsking] = useState(false);
  const typed = form.formState.isDirty;
  return (
    <DialogFrame title={props.title} close={() => (typed ? setAsking(!asking) : close())}>
      <FormProvider {...form}>
        <Problems value={props.wrong}>
          <form className="mt-3 flex flex-col gap-3" onSubmit={form.handleSubmit(props.submit)}>
            {props.children}
          </form>
        </Problems>
      </FormProvider>
      {asking && (
        <div role="alert" className="mt-4 border-t-2 border-oxide pt-3">
          <b>{LEAVE}</b>
          <Leave stay={() => setAsking(false)} leave={close} />
        </div>
      )}
    </DialogFrame>
  );
}

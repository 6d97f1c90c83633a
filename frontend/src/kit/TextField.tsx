import { Description, Field, Input, Label, Textarea } from "@headlessui/react";
import type { KeyboardEvent, ReactNode, Ref } from "react";

export const FIELD = "min-h-11 w-full rounded-sm border border-steel-2 bg-paper px-2";

const LOOK = `${FIELD} font-mono placeholder:font-sans placeholder:text-fine placeholder:text-soft placeholder:italic data-invalid:border-oxide data-invalid:bg-oxide-bg`;

/** A field to type in, with what is wrong with it beneath. */
export function TextField(props: {
  label: ReactNode;
  value: string;
  onChange: (value: string) => void;
  /** What could be typed. Shown so that it is not taken for what was. */
  example?: string;
  problem?: string;
  /** Said beneath while nothing is wrong. */
  note?: string;
  numeric?: boolean;
  /** What is typed is not shown. */
  secret?: boolean;
  /** It grows with what is in it, so that all of it can be read. */
  long?: boolean;
  className?: string;
  /** What a form moves the focus by. */
  fieldRef?: Ref<HTMLInputElement & HTMLTextAreaElement>;
}) {
  const shown = {
    ref: props.fieldRef,
    value: props.value,
    onChange: (event: { target: { value: string } }) => props.onChange(event.target.value),
    placeholder: props.example && `e.g. ${props.example}`,
    invalid: props.problem !== undefined,
    autoComplete: "off",
  };
  return (
    <Field className={`min-w-0 flex-1 ${props.className ?? ""}`}>
      <Label className="text-fine text-soft">{props.label}</Label>
      {props.long ? (
        <Textarea
          {...shown}
          rows={1}
          onKeyDown={sent}
          className={`${LOOK} field-sizing-content resize-none py-2 wrap-break-word`}
        />
      ) : (
        <Input
          {...shown}
          type={props.secret ? "password" : "text"}
          inputMode={props.numeric ? "decimal" : undefined}
          className={LOOK}
        />
      )}
      {props.problem && (
        <Description as="p" role="alert" className="mt-1 text-fine text-oxide">
          {props.problem}
        </Description>
      )}
      {props.note && !props.problem && (
        <Description as="p" className="mt-1 text-fine text-soft">
          {props.note}
        </Description>
      )}
    </Field>
  );
}

/** A field that grows is still one line: Enter sends the form. */
function sent(event: KeyboardEvent<HTMLTextAreaElement>) {
  if (event.key !== "Enter") return;
  event.preventDefault();
  event.currentTarget.form?.requestSubmit();
}

import { type ComponentProps, createContext, useContext } from "react";
import { useController } from "react-hook-form";

import { Checkbox } from "./Checkbox";
import { FamilySelect } from "./FamilySelect";
import { Choice } from "./Form";
import { Segmented } from "./Segmented";
import { TextField } from "./TextField";

/** What the server says is wrong at a field of the form around, by the field's name in the form. */
export const Problems = createContext<(name: string) => string | undefined>(() => undefined);

/** A field of the form around, and what is wrong there. */
function useField(name: string) {
  const { field } = useController({ name });
  return { field, problem: useContext(Problems)(name) };
}

/** A figure or a word of the record that is typed. */
export function FormText(
  props: { name: string } & Omit<
    ComponentProps<typeof TextField>,
    "value" | "onChange" | "problem" | "fieldRef"
  >,
) {
  const { name, ...shown } = props;
  const { field, problem } = useField(name);
  return (
    <TextField
      {...shown}
      value={(field.value as string | null | undefined) ?? ""}
      onChange={field.onChange}
      problem={problem}
      fieldRef={field.ref}
    />
  );
}

/** One of a few, in a list. */
export function FormChoice(props: { name: string; label: string; options: [string, string][] }) {
  const { name, ...shown } = props;
  const { field, problem } = useField(name);
  return (
    <Choice
      {...shown}
      value={(field.value as string | null | undefined) ?? ""}
      change={field.onChange}
      problem={problem}
    />
  );
}

/** One of two or three, side by side. */
export function FormSegmented(props: { name: string; label: string; options: [string, string][] }) {
  const { name, ...shown } = props;
  const { field } = useController({ name });
  return <Segmented {...shown} value={field.value as string} onChange={field.onChange} />;
}

/** Yes or no. */
export function FormCheckbox({ name, label }: { name: string; label: string }) {
  const { field } = useController({ name });
  return <Checkbox label={label} ticked={Boolean(field.value)} change={field.onChange} />;
}

/** One of the shop's families of wheels. */
export function FormFamily(
  props: { name: string } & Pick<
    ComponentProps<typeof FamilySelect>,
    "label" | "none" | "families"
  >,
) {
  const { name, ...shown } = props;
  const { field, problem } = useField(name);
  return (
    <FamilySelect
      {...shown}
      value={field.value as number | null}
      change={field.onChange}
      problem={problem}
    />
  );
}

import { useCallback } from "react";
import { useFormContext } from "react-hook-form";

import type { Schemas } from "../../api/client";

export type Quadrant = Schemas["QuadrantIO"];
/** Changes some fields, as they stand at that moment. */
export type PutQuadrant = (change: (now: Quadrant) => Partial<Quadrant>) => void;

/** A quadrant of which nothing is known. */
export const QUADRANT: Quadrant = {
  first_x: "",
  first_y: "",
  apart: "",
  swing_low: "",
  swing_high: "",
  collar_first: "",
  collar_stud: "",
  collar_last: "",
  gap: "0.5",
  studs: "",
  slots: [],
  cover: "",
  goes_on: "",
  not_on: "",
  sources: {},
};

interface ItsWheels {
  wheels?: string | null;
  wheels_seen?: string | null;
}

/** A known machine's record as it is saved: its wheels only where they were typed over, with what was typed over. */
export function withWheels<R extends ItsWheels>(typed: R, before: ItsWheels): R {
  const wheels = typed.wheels === before.wheels ? null : typed.wheels;
  return { ...typed, wheels, wheels_seen: before.wheels };
}

// Parts of a record that the server does not name when it speaks of a field.
const UNNAMED = ["arm", "boxes", "quadrant"];

/** A field's name in the form, of a part of the record; the record itself has no name. */
export function inside(part: string, field: string): string {
  return part ? `${part}.${field}` : field;
}

/** What the server calls a field of a part: `boxes.index.quadrant.apart` is its `index.apart`. */
export function nameAtServer(field: string): string {
  const names = field.split(".");
  return names.filter((name) => !UNNAMED.includes(name)).join(".");
}

/** Changes the fields of the quadrant at a place of the record, one at a time. */
export function usePutQuadrant(part: string): PutQuadrant {
  const { getValues, setValue } = useFormContext();
  return useCallback(
    (change) => {
      const now = (part ? getValues(part) : getValues()) as Quadrant;
      for (const [field, value] of Object.entries(change(now)))
        setValue(inside(part, field), value, { shouldDirty: true });
    },
    [part, getValues, setValue],
  );
}

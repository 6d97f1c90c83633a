import { Fragment, type ReactNode } from "react";

import type { MachineKind, MachineRecord, RecordField, RecordPart } from "../../api/stores";
import { Part, Row } from "../../kit/Form";
import { FormCheckbox, FormChoice, FormText } from "../../kit/FormFields";
import { Segmented } from "../../kit/Segmented";
import { BOX, BoxFields } from "./BoxFields";

/** The box that is open, by its name; `arm` for what carries a head's own gears. */
export type Open = RecordPart["boxes"][number]["name"];

/** A part of a machine's record: its fields, and that of its boxes which is open. */
export function PartFields(props: {
  part: RecordPart;
  open: Open;
  /** What may be opened beside the boxes, name and title each. */
  others: [Open, string][];
  change: (open: Open) => void;
  /** What the page has to say under a field, by its name in the form. */
  help: Record<string, ReactNode>;
  children?: ReactNode;
}) {
  const { part } = props;
  const box = part.boxes.find((one) => one.name === props.open);
  const quadrants = part.boxes.map(({ name, title }): [Open, string] => [name, title]);
  const choices = [...quadrants, ...props.others];
  return (
    <>
      {part.groups.map((group) => (
        <Part key={group.title} title={group.title} note={group.note}>
          {group.rows.map((row) => (
            <FieldRow key={row[0]!.name} row={row} part={part.name} help={props.help} />
          ))}
        </Part>
      ))}
      {part.boxes.length > 0 && (
        <Part title={part.boxes_title} note={part.boxes_note}>
          {choices.length > 1 && (
            <Segmented
              label="Quadrant that is shown"
              value={props.open}
              options={choices}
              onChange={props.change}
            />
          )}
          {box && (
            <BoxFields
              key={box.name}
              part={`${part.name}.boxes.${box.name}`}
              rightWay={box.right_way}
              lever={box.lever}
              names={box.shafts}
            />
          )}
        </Part>
      )}
      {props.children}
    </>
  );
}

function FieldRow(props: { row: RecordField[]; part: string; help: Record<string, ReactNode> }) {
  const shown = props.row.map((field) => {
    const name = `${props.part}.${field.name}`;
    return (
      <Fragment key={name}>
        <Field name={name} field={field} />
        {props.help[name]}
      </Fragment>
    );
  });
  return shown.length > 1 ? <Row>{shown}</Row> : shown;
}

function Field({ name, field }: { name: string; field: RecordField }) {
  const { label, example, long, numeric, options } = field;
  if (field.tick) return <FormCheckbox name={name} label={label} />;
  if (options.length > 0) {
    const words = options.map(({ word, text }): [string, string] => [word, text]);
    return <FormChoice name={name} label={label} options={words} />;
  }
  return <FormText name={name} label={label} example={example} numeric={numeric} long={long} />;
}

/** What is typed of one part. */
type RecordForm = Record<string, unknown> & { boxes?: Record<string, typeof BOX> };

/** What is typed of a part of a record, by its name. */
export function typedOf(record: MachineRecord, part: string): RecordForm | null {
  return (record as unknown as Record<string, RecordForm | null | undefined>)[part] ?? null;
}

/** A record with every part that its kind has, so that each has its fields. */
export function filledIn(record: MachineRecord, kind: MachineKind): MachineRecord {
  const parts = kind.parts.map((part) => {
    const typed = typedOf(record, part.name);
    const fields = part.groups.flatMap(({ rows }) => rows.flat());
    const bare = fields.map((f) => [f.name, typed?.[f.name] || (f.tick ? false : f.usual)]);
    const boxes = part.boxes.map(({ name }) => [name, typed?.boxes?.[name] ?? BOX]);
    const more = part.boxes.length > 0 ? { boxes: Object.fromEntries(boxes) as unknown } : {};
    return [part.name, { ...Object.fromEntries(bare), ...more }];
  });
  return { ...record, ...(Object.fromEntries(parts) as Partial<MachineRecord>) };
}

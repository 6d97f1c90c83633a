import { Choice } from "./Form";

/** One of the shop's families of wheels, by its number; null where `none` is chosen. */
export function FamilySelect(props: {
  label: string;
  families: { id: number; name: string; pitch: string }[] | undefined;
  value: number | null | undefined;
  change: (family: number | null) => void;
  /** What no family is called here; undefined where there must be one. */
  none?: string;
  problem?: string;
}) {
  const { label, families = [], value, change, none, problem } = props;
  const named = families.map((f): [string, string] => [String(f.id), `${f.name} (${f.pitch})`]);
  return (
    <Choice
      label={label}
      value={value == null ? "" : String(value)}
      options={none === undefined ? named : [["", none], ...named]}
      change={(chosen) => change(chosen ? Number(chosen) : null)}
      problem={problem}
    />
  );
}

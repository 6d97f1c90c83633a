import { Button, buttonLook } from "../kit/Button";

/** What is done with a sheet: print it, take it as PDF, record that it is on the machine. */
export function SheetButtons(props: {
  goesOn: boolean;
  fits: boolean;
  on: boolean;
  /** What recording it as fitted does, or why it cannot be done. */
  title?: string;
  pdf: string;
  print: () => void;
  record: () => void;
}) {
  return (
    <div className="grid grid-cols-[auto_auto_1fr] gap-2 border-t border-line p-3 phone:sticky phone:bottom-0 phone:bg-chalk">
      <Button look="main" onClick={props.print} disabled={!props.goesOn}>
        Print
      </Button>
      {props.goesOn && (
        <a className={buttonLook()} href={props.pdf} download>
          PDF
        </a>
      )}
      <Button
        className={props.goesOn ? "" : "col-span-2"}
        onClick={props.record}
        disabled={!props.fits || props.on}
        title={props.title}
      >
        {props.on ? "Fitted" : "Record as fitted"}
      </Button>
    </div>
  );
}

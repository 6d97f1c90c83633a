import type { ReactNode } from "react";

// A hobber and a mill say more on their sheet than a lathe; a lathe has more of its height for the shelf.
const SIZES = {
  lathe:
    "grid-cols-[308px_minmax(0,1fr)_304px] grid-rows-[minmax(0,1fr)_152px] tall:grid-rows-[500px_minmax(0,1fr)_150px]",
  wide: "grid-cols-[308px_minmax(0,1fr)_328px] grid-rows-[minmax(0,1fr)_140px] tall:grid-rows-[550px_minmax(0,1fr)_140px]",
};

/** The four parts of a station that plans trains: the list, the drawing, the sheet, and the shelf under them. */
export function StationFrame(props: {
  size: keyof typeof SIZES;
  list: ReactNode;
  drawing: ReactNode;
  sheet: ReactNode;
  shelf: ReactNode;
  phoneDrawing?: string;
}) {
  return (
    <div
      className={`grid h-full ${SIZES[props.size]} print:hidden tall:grid-cols-[320px_minmax(0,1fr)] phone:flex phone:h-auto phone:flex-col`}
    >
      <section
        aria-label="Trains"
        className="min-h-0 overflow-y-auto border-r border-line px-4 py-3 tall:row-start-2 phone:order-2 phone:max-h-[440px] phone:border-r-0 phone:border-b phone:px-2"
      >
        {props.list}
      </section>
      <section
        aria-label="Drawing"
        className={`relative min-h-0 min-w-0 overflow-hidden bg-paper tall:col-span-2 tall:row-start-1 phone:order-1 ${props.phoneDrawing ?? ""}`}
      >
        {props.drawing}
      </section>
      <section
        aria-label="Set-up sheet"
        className="min-h-0 border-l border-line tall:row-start-2 tall:border-t phone:order-3 phone:border-l-0"
      >
        {props.sheet}
      </section>
      <div className="col-span-3 min-h-0 border-t border-line tall:col-span-2 tall:row-start-3 phone:order-4 phone:h-[190px]">
        {props.shelf}
      </div>
    </div>
  );
}

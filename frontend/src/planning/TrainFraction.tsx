import { Fragment } from "react";

import type { Candidate } from "../api/client";

/** A train as people write it: driver over driven, times driver over driven; idlers small between. */
export function TrainFraction({
  stages,
  text,
  small = false,
  className = "",
}: Pick<Candidate, "stages" | "text"> & { small?: boolean; className?: string }) {
  return (
    <span
      className={`inline-flex items-center gap-2 font-mono ${small ? "text-large" : "text-title"} leading-none font-bold ${className}`}
      role="img"
      aria-label={text}
    >
      {stages.map((stage, n) => (
        <Fragment key={n}>
          {n > 0 && <span className="text-lesser font-normal text-soft">×</span>}
          <span className="inline-flex flex-col items-center">
            <span>{stage.driver}</span>
            <span className="my-[2px] h-[2px] w-full min-w-7 bg-current" />
            <span>{stage.driven}</span>
          </span>
          {stage.idlers.length > 0 && (
            <span className="text-fine leading-tight font-normal text-soft">
              {stage.idlers.length > 1 ? "idlers" : "idler"}
              <br />
              <b className="text-plain">{stage.idlers.join(" ")}</b>
            </span>
          )}
        </Fragment>
      ))}
    </span>
  );
}

import { useState } from "react";
import { useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import { type DiscAsk, discFile, useDisc } from "../../api/dividing";
import { usePreferences } from "../../app/preferences";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { Stale } from "../../kit/Stale";
import { buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";

/** A disc or strip to print: what it would be good for is said before. */
export default function DiscStation() {
  const { units } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const typed = (name: string, usual: string) => search.get(name) ?? usual;
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    next.set(name, value);
    setSearch(next, { replace: true });
  };
  const form = typed("form", "disc") === "strip" ? "strip" : "disc";
  const request: DiscAsk = {
    divisions: typed("divisions", "57"),
    diameter: typed("diameter", "180 mm"),
    long: typed("long", "5"),
    numbered: typed("numbered", "10"),
  };
  const settled = useDebouncedValue(request, 250);
  const disc = useDisc(settled, units);
  const { data: answer, ...aged } = useLastGood(disc, units);
  // What is drawn and saved is what was last answered, not what is being typed.
  const [drawn, setDrawn] = useState(settled);
  if (disc.data && drawn !== settled) setDrawn(settled);
  const wrong = refusedAt(disc.error);
  const fields = ["divisions", "diameter", "long", "numbered"];
  return (
    <div className="grid h-full grid-cols-[300px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
      <section
        aria-label="The disc"
        className="grid auto-rows-max content-start gap-3 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
      >
        <h1 className="text-heading font-bold">A disc to print</h1>
        <Segmented
          label="Form"
          value={form}
          options={[
            ["disc", "Disc"],
            ["strip", "Strip"],
          ]}
          onChange={(value) => set("form", value)}
        />
        <TextField
          label="Divisions"
          value={typed("divisions", "57")}
          onChange={(v) => set("divisions", v)}
          problem={wrong("divisions")}
          numeric
        />
        <TextField
          label={form === "disc" ? "Diameter" : "Diameter of the drum or chuck"}
          value={typed("diameter", "180 mm")}
          onChange={(v) => set("diameter", v)}
          problem={wrong("diameter")}
        />
        <TextField
          label="Longer every"
          value={typed("long", "5")}
          onChange={(v) => set("long", v)}
          problem={wrong("long")}
          numeric
        />
        <TextField
          label="Numbered every"
          value={typed("numbered", "10")}
          onChange={(v) => set("numbered", v)}
          problem={wrong("numbered")}
          numeric
        />
        {disc.error && !fields.some(wrong) && (
          <Failure error={disc.error} retry={() => void disc.refetch()} />
        )}
        <Stale {...aged}>
          <div role="status">
            {answer?.texts.map((text) => (
              <p key={text} className="mb-2">
                {text}
              </p>
            ))}
            {form === "strip" && answer && <p className="mb-2">{answer.strip_text}</p>}
          </div>
        </Stale>
        <div
          className={`flex gap-2 ${aged.old || !answer ? "pointer-events-none opacity-45" : ""}`}
          inert={aged.old || !answer}
        >
          {(["pdf", "dxf", "svg"] as const).map((kind) => (
            <a
              key={kind}
              className={buttonLook(kind === "pdf" ? "main" : "plain")}
              href={discFile(settled, form, kind, units)}
              download
            >
              {kind.toUpperCase()}
            </a>
          ))}
        </div>
        <p className="text-lesser text-soft">
          Print at 100 % and measure the check line before pasting it on. Larger than the paper it
          comes in tiles that overlap.
        </p>
      </section>
      <section
        aria-label="How it looks"
        className="relative min-h-0 overflow-auto bg-paper tall:h-[760px]"
      >
        {answer && (
          <Stale {...aged} note className="h-full">
            <img
              src={discFile(drawn, form, "svg", units)}
              alt={`${form} with ${drawn.divisions} lines`}
              className={
                form === "disc"
                  ? "absolute inset-4 h-[calc(100%-2rem)] w-[calc(100%-2rem)] bg-white object-contain"
                  : "m-4 max-w-none bg-white"
              }
            />
          </Stale>
        )}
      </section>
    </div>
  );
}

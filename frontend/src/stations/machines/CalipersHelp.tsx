import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type Calipers, useCalipers } from "../../api/machines";
import { Callout } from "../../kit/Callout";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Row } from "../../kit/Form";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";

export type Taken = NonNullable<ReturnType<typeof useCalipers>["data"]>;

const NONE: Calipers = {
  over: "",
  first: "",
  last: "",
  stud: "",
  inner: "",
  outer: "",
  height: "",
  side: "right",
};

/** Three caliper readings turned into the distance of the shafts and the slot. */
export function CalipersHelp(props: {
  names: { first: string; last: string };
  open: boolean;
  take: (taken: Taken) => void;
}) {
  const { names } = props;
  const [typed, setTyped] = useState<Calipers>(NONE);
  const calipers = useCalipers();
  const put = (changes: Partial<Calipers>) => setTyped({ ...typed, ...changes });
  const wrong = refusedAt(calipers.error);
  const field = (name: keyof Calipers, label: string) => (
    <TextField
      label={label}
      value={typed[name] ?? ""}
      onChange={(value) => put({ [name]: value })}
      problem={wrong(name)}
      numeric
    />
  );
  const taken = calipers.data;
  return (
    <Disclosure title="Measure with calipers" open={props.open}>
      <Callout tone="hint" className="flex flex-col gap-2">
        <p className="text-lesser">
          Isolate the machine first. Measure over the outsides, then the diameters at the same
          places.
        </p>
        <WhereToMeasure first={names.first} last={names.last} />
        <Row>
          {field("over", "1 Both shafts")}
          {field("inner", "2 Stud, inner")}
          {field("outer", "3 Stud, outer")}
        </Row>
        <Row>
          {field("first", `⌀ ${names.first}`)}
          {field("last", `⌀ ${names.last}`)}
          {field("stud", "⌀ stud")}
        </Row>
        <Row>
          {field("height", `Height of the ${names.first} over the ${names.last}, if taken`)}
        </Row>
        {typed.height?.trim() && (
          <Segmented
            label="Side"
            value={typed.side ?? "right"}
            options={[
              ["right", "it stands to the right"],
              ["left", "to the left"],
            ]}
            onChange={(side) => put({ side })}
          />
        )}
        <Button onClick={() => calipers.mutate(typed, { onSuccess: props.take })}>
          Use these readings
        </Button>
        {taken && (
          <p role="status" className="text-lesser">
            {taken.apart} mm apart
            {taken.farthest && `; slot from ${taken.nearest || "?"} to ${taken.farthest} mm`}.
          </p>
        )}
      </Callout>
    </Disclosure>
  );
}

/** Which three distances are meant: a picture to read, not to measure. */
function WhereToMeasure({ first, last }: { first: string; last: string }) {
  const line = { stroke: "var(--ink)", strokeWidth: 1.4 };
  const shaft = { fill: "var(--paper)", stroke: "var(--ink)", strokeWidth: 2 };
  return (
    <svg
      viewBox="0 0 340 184"
      role="img"
      aria-label={`Where to measure: 1 over ${first} and ${last}, 2 and 3 over the stud at both ends of its slot and the ${last}`}
      className="w-full bg-paper"
    >
      <g transform="rotate(-24 70 120)">
        <rect
          x={70}
          y={106}
          width={196}
          height={28}
          rx={14}
          fill="var(--grid)"
          stroke="var(--steel-2)"
        />
        <rect
          x={108}
          y={113}
          width={146}
          height={14}
          rx={7}
          fill="var(--paper)"
          stroke="var(--steel-2)"
        />
        <circle cx={116} cy={120} r={11} {...shaft} />
        <circle cx={246} cy={120} r={11} {...shaft} strokeDasharray="4 3" />
        <Span from={[54, 120]} to={[127, 120]} off={-32} label="2" line={line} />
        <Span from={[54, 120]} to={[257, 120]} off={34} label="3" line={line} />
      </g>
      <circle cx={70} cy={120} r={16} {...shaft} />
      <circle cx={296} cy={132} r={14} {...shaft} />
      <Span from={[54, 122]} to={[310, 132]} off={36} label="1" line={line} />
      <g fontSize={13} className="fill-ink">
        <text x={8} y={98}>
          {last}
        </text>
        <text x={262} y={112}>
          {first}
        </text>
        <text x={190} y={36}>
          stud
        </text>
      </g>
    </svg>
  );
}

/** A dimension over two outsides, so far from them. */
function Span(props: {
  from: [number, number];
  to: [number, number];
  off: number;
  label: string;
  line: { stroke: string; strokeWidth: number };
}) {
  const { from, to, off, line } = props;
  const y = Math.max(from[1], to[1]) + off;
  const middle = (from[0] + to[0]) / 2;
  return (
    <g>
      <path
        d={`M${from[0]} ${from[1]}V${y}M${to[0]} ${to[1]}V${y}M${from[0]} ${y}H${to[0]}`}
        fill="none"
        {...line}
      />
      <circle cx={middle} cy={y} r={9} fill="var(--blue)" />
      <text
        x={middle}
        y={y}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={13}
        fontWeight={700}
        fill="var(--paper)"
      >
        {props.label}
      </text>
    </g>
  );
}

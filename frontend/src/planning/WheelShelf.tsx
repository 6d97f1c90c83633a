import { useEffect, useMemo } from "react";

import type { Drawing, Outline, Shelf } from "../api/client";
import { onEnter, useInHand } from "../drawing/inHand";
import { hole, wheelPath } from "../drawing/outline";
import { useSize } from "../drawing/useSize";

interface ShelfState {
  teeth: number;
  use: "held" | "mounted" | "proposed" | "stays" | "missing" | "wanted";
}

const INKS: Record<ShelfState["use"], { fill: string; line: string; text: string }> = {
  held: { fill: "var(--steel)", line: "var(--steel-2)", text: "var(--ink)" },
  mounted: { fill: "var(--brass-bg)", line: "var(--brass-line)", text: "var(--brass)" },
  stays: { fill: "var(--brass-bg)", line: "var(--brass-line)", text: "var(--brass)" },
  proposed: { fill: "var(--blue-bg)", line: "var(--blue)", text: "var(--blue)" },
  missing: { fill: "none", line: "var(--steel-2)", text: "var(--soft)" },
  wanted: { fill: "none", line: "var(--blue)", text: "var(--blue)" },
};

const SAID: Record<ShelfState["use"], string> = {
  held: "held",
  mounted: "on the machine now, comes off",
  stays: "on the machine now, stays",
  proposed: "in this plan",
  missing: "missing",
  wanted: "not held, wanted by this plan",
};

const LIFTED = new Set<ShelfState["use"]>(["proposed", "stays", "wanted"]);
const ON_NOW = new Set<ShelfState["use"]>(["mounted", "stays"]);
const LIFT = 12;
const LABEL = 26;
const BOARD = 8;
const GAP = 9;
const LEAST_WIDTH = 22;
const MOST_SCALE = 1.4;
const LEAST_SCALE = 0.12;
const SCROLLED = 0.6;

/** The machine's wheels standing on a board in order of size, to one scale. */
export function WheelShelf({
  shelf,
  drawing,
  planned,
  name,
}: {
  shelf: Shelf;
  drawing?: Drawing;
  planned: Outline[];
  name: string;
}) {
  const [board, size] = useSize<HTMLDivElement>();
  const hand = useInHand();
  const outlines = useMemo(
    () => new Map([...planned, ...shelf.outlines].map((o) => [o.teeth, o])),
    [shelf, planned],
  );
  const paths = useMemo(
    () => new Map([...outlines].map(([t, o]) => [t, wheelPath(o) + hole(o.bore_radius_mm)])),
    [outlines],
  );
  const standing = useMemo(() => arrange(shelf, drawing), [shelf, drawing]);
  const tip = (s: ShelfState) => outlines.get(s.teeth)?.tip_radius_mm ?? 0;
  const largest = Math.max(1, ...standing.map((s) => 2 * tip(s)));
  const room = Math.max(40, size.height - LABEL - LIFT - BOARD);
  const wide = (s: ShelfState, scale: number) => Math.max(2 * tip(s) * scale, LEAST_WIDTH) + GAP;
  let scale = Math.min(MOST_SCALE, room / largest);
  while (scale > LEAST_SCALE && standing.reduce((sum, s) => sum + wide(s, scale), 8) > size.width)
    scale *= 0.96;
  // Where not even the smallest fits, it is scrolled along anyway: then they are as large as can be told apart.
  if (scale <= LEAST_SCALE) scale = Math.min(MOST_SCALE, (room / largest) * SCROLLED);
  const begins = [4];
  for (const s of standing) begins.push(begins.at(-1)! + wide(s, scale));
  const places = standing.map((s, n) => {
    const middle = begins[n]! + (wide(s, scale) - GAP) / 2;
    return { ...s, radius: tip(s) * scale, middle };
  });
  const x = begins.at(-1)!;
  const spread = Math.max(0, Math.min(26, (size.width - x - 4) / Math.max(1, standing.length)));
  const width = x + spread * standing.length;
  // On a shelf longer than the screen the plan's own wheels come into sight.
  const raised = places.filter((p) => LIFTED.has(p.use)).map((p) => p.middle);
  const middle = raised.length ? (Math.min(...raised) + Math.max(...raised)) / 2 : 0;
  useEffect(() => {
    if (middle && width > size.width + 1)
      board.current?.scrollTo({ left: middle - size.width / 2 });
  }, [board, middle, width, size.width]);
  const ground = size.height - BOARD;
  return (
    <section
      aria-label={`${name}’s wheels`}
      data-drop={hand ? "shelf" : undefined}
      className="flex h-full flex-col px-4 pt-2 pb-2"
    >
      <p className="flex flex-wrap gap-x-4 text-fine text-soft">
        <b className="text-ink">{name}’s wheels</b>
        {drawing && (
          <span>
            <b className="text-blue">raised</b>: in this plan
          </span>
        )}
        <span>
          <b className="text-brass underline decoration-2 underline-offset-2">brass, underlined</b>:
          on it now
        </span>
        <span>outline: missing</span>
        {hand && (
          <span className={hand.held ? "font-bold text-brass" : ""}>
            {hand.held
              ? `The ${hand.held.teeth} is picked up: put it on a wheel${hand.held.at === undefined ? ", or on a + as idler" : " to swap them, or an idler back here"}. Esc lays it down.`
              : "Drag a wheel onto the drawing to try it, or tap one and then its place."}
          </span>
        )}
      </p>
      <div
        ref={board}
        className="min-h-0 flex-1 overflow-x-auto overflow-y-hidden"
        tabIndex={width > size.width + 1 ? 0 : undefined}
      >
        <svg
          width={Math.max(width, size.width)}
          height={size.height}
          role="list"
          aria-label="wheels in order of size"
          className="block select-none"
        >
          {places.map((p, n) => {
            const lifted = LIFTED.has(p.use);
            const ink = INKS[p.use];
            const cx = p.middle + spread * (n + 0.5);
            const cy = ground - p.radius - (lifted ? LIFT : 0);
            const takes = hand && {
              role: "button",
              tabIndex: n === 0 ? 0 : -1,
              "aria-label": `Pick up the ${p.teeth}`,
              className: "cursor-grab touch-none",
              onPointerDown: (event: React.PointerEvent) => hand.press(event, { teeth: p.teeth }),
              onKeyDown: (event: React.KeyboardEvent<SVGGElement>) => {
                if (event.key === "ArrowRight" || event.key === "ArrowLeft") {
                  event.preventDefault();
                  step(event.currentTarget, event.key === "ArrowRight");
                } else onEnter(() => hand.take({ teeth: p.teeth }))(event);
              },
            };
            return (
              <g key={n} role="listitem" aria-label={`${p.teeth}, ${SAID[p.use]}`}>
                <g {...takes}>
                  {takes && (
                    <rect
                      x={cx - Math.max(p.radius, 22)}
                      y={0}
                      width={2 * Math.max(p.radius, 22)}
                      height={Math.max(0, ground)}
                      fill="transparent"
                    />
                  )}
                  <path
                    d={paths.get(p.teeth)}
                    transform={`translate(${cx} ${cy}) scale(${scale} ${-scale}) rotate(90)`}
                    fill={ink.fill}
                    fillRule="evenodd"
                    stroke={ink.line}
                    strokeWidth={lifted ? 1.3 : 0.9}
                    strokeDasharray={p.use === "missing" || p.use === "wanted" ? "3 2" : undefined}
                    vectorEffect="non-scaling-stroke"
                  />
                  <text
                    x={cx}
                    y={cy - p.radius - 6}
                    textAnchor="middle"
                    fontSize={16}
                    className="font-mono font-bold"
                    fill={ink.text}
                    textDecoration={ON_NOW.has(p.use) ? "underline" : undefined}
                  >
                    {p.teeth}
                  </text>
                  <title>{`${p.teeth} teeth: ${SAID[p.use]}`}</title>
                </g>
              </g>
            );
          })}
          <rect
            x={0}
            y={ground}
            width={Math.max(width, size.width)}
            height={5}
            fill="var(--enamel-2)"
          />
        </svg>
      </div>
    </section>
  );
}

/** To the next wheel of the shelf, or the one before. */
function step(from: SVGGElement, onward: boolean) {
  const item = onward
    ? from.parentElement?.nextElementSibling
    : from.parentElement?.previousElementSibling;
  item?.querySelector<SVGGElement>("[role=button]")?.focus();
}

/** Each wheel once, doubles twice, with what the plan does to it. */
function arrange(shelf: Shelf, drawing?: Drawing): ShelfState[] {
  const count = (teeth: number, state: string) =>
    drawing?.wheels.filter((w) => w.teeth === teeth && w.state === state).length ?? 0;
  const standing = shelf.wheels.flatMap(({ teeth, count: held, mounted }): ShelfState[] => {
    const missing = count(teeth, "missing");
    if (held === 0) return [{ teeth, use: missing ? "wanted" : "missing" }];
    const stays = count(teeth, "mounted");
    const proposed = count(teeth, "proposed");
    const free = Math.max(0, held - mounted);
    return [
      ...Array<ShelfState>(stays).fill({ teeth, use: "stays" }),
      ...Array<ShelfState>(proposed).fill({ teeth, use: "proposed" }),
      ...Array<ShelfState>(Math.max(0, mounted - stays - Math.max(0, proposed - free))).fill({
        teeth,
        use: "mounted",
      }),
      ...Array<ShelfState>(Math.max(0, free - proposed)).fill({ teeth, use: "held" }),
    ];
  });
  const known = new Set(shelf.wheels.map((w) => w.teeth));
  const foreign = (drawing?.wheels ?? []).filter(
    (w) => w.state === "missing" && !known.has(w.teeth),
  );
  return [...standing, ...foreign.map((w): ShelfState => ({ teeth: w.teeth, use: "wanted" }))].sort(
    (a, b) => a.teeth - b.teeth,
  );
}

import type { Book } from "../../api/log";
import { useSize } from "../../drawing/useSize";
import { day } from "../../kit/date";

// px, on paper and before the width is known.
const USUAL_WIDTH = 720;
const HEIGHT = 260;
const LEFT = 64;
const RIGHT = 16;
const TOP = 16;
const BOTTOM = 34;

/** Readings of a lead over the time, each with what it may be off, against what is wanted; and what they say together. */
export function ReadingsPlot({ book }: { book: Book }) {
  const [room, size] = useSize<HTMLDivElement>();
  return (
    <div ref={room} className="mt-2 border border-line bg-paper">
      <Plot book={book} width={size.width || USUAL_WIDTH} />
    </div>
  );
}

function Plot({ book, width }: { book: Book; width: number }) {
  const { readings } = book;
  const counted = readings.filter((r) => !r.left_out);
  if (readings.length === 0) return null;
  const ends = (counted.length ? counted : readings).flatMap((r) => [
    r.ppm - r.off_ppm,
    r.ppm + r.off_ppm,
  ]);
  const [low, high] = [Math.min(0, ...ends), Math.max(0, ...ends)];
  const spare = (high - low) * 0.08 || 1;
  const [bottom, top] = [low - spare, high + spare];
  const y = (ppm: number) => TOP + ((top - ppm) / (top - bottom)) * (HEIGHT - TOP - BOTTOM);
  const times = readings.map((r) => new Date(r.at).getTime());
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const x = (at: string) => {
    const room = width - LEFT - RIGHT - 24;
    const share = last > first ? (new Date(at).getTime() - first) / (last - first) : 0.5;
    return LEFT + 12 + share * room;
  };
  const inside = (ppm: number) => Math.min(top, Math.max(bottom, ppm));
  return (
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      className="block w-full"
      role="img"
      aria-label={`Readings of the lead of ${book.machine}: ${book.says}`}
    >
      {ticks(bottom, top).map((ppm) => (
        <g key={ppm}>
          <line
            x1={LEFT}
            x2={width - RIGHT}
            y1={y(ppm)}
            y2={y(ppm)}
            stroke={ppm === 0 ? "var(--ink)" : "var(--grid)"}
            strokeWidth={ppm === 0 ? 1.5 : 1}
          />
          <text x={LEFT - 8} y={y(ppm) + 4} textAnchor="end" fontSize="13" fill="var(--soft)">
            {ppm > 0 ? `+${ppm}` : ppm < 0 ? `−${-ppm}` : "wanted"}
          </text>
        </g>
      ))}
      {book.ppm !== null && book.off_ppm !== null && (
        <g>
          <rect
            x={LEFT}
            width={width - LEFT - RIGHT}
            y={y(book.ppm + book.off_ppm)}
            height={Math.max(1, y(book.ppm - book.off_ppm) - y(book.ppm + book.off_ppm))}
            fill="var(--brass-bg)"
            opacity="0.8"
          />
          <line
            x1={LEFT}
            x2={width - RIGHT}
            y1={y(book.ppm)}
            y2={y(book.ppm)}
            stroke="var(--brass-line)"
            strokeWidth="2"
          />
        </g>
      )}
      {readings.map((r) => (
        <g key={r.entry} stroke={r.left_out ? "var(--steel-2)" : "var(--blue)"} strokeWidth="2">
          {!r.left_out && (
            <line
              x1={x(r.at)}
              x2={x(r.at)}
              y1={y(inside(r.ppm + r.off_ppm))}
              y2={y(inside(r.ppm - r.off_ppm))}
            />
          )}
          {r.left_out ? (
            <path d={`M${x(r.at) - 5} ${y(inside(r.ppm)) - 5} l10 10 m0 -10 l-10 10`} fill="none" />
          ) : (
            <circle cx={x(r.at)} cy={y(r.ppm)} r="4.5" fill="var(--blue)" />
          )}
          <title>
            {day(r.at)}: {r.text}
          </title>
        </g>
      ))}
      <text x={LEFT} y={HEIGHT - 10} fontSize="13" fill="var(--soft)">
        {day(readings[0]!.at)}
      </text>
      <text x={width - RIGHT} y={HEIGHT - 10} textAnchor="end" fontSize="13" fill="var(--soft)">
        {day(readings.at(-1)!.at)}
      </text>
      <text x="6" y={HEIGHT - 10} fontSize="13" fill="var(--soft)">
        ppm
      </text>
    </svg>
  );
}

/** Round figures between two, about five of them, 0 among them. */
function ticks(bottom: number, top: number): number[] {
  const rough = (top - bottom) / 5;
  const ten = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((n) => n * ten).find((s) => s >= rough) ?? 10 * ten;
  const first = Math.ceil(bottom / step);
  return Array.from({ length: Math.floor(top / step) - first + 1 }, (_, n) =>
    Number(((first + n) * step).toPrecision(6)),
  );
}

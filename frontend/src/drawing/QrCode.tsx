// Free squares that a reader needs all round.
const QUIET = 4;

/** A QR code from its squares, line by line; black on white also at night, so that a camera reads it. */
export function QrCode({ modules, name }: { modules: string[]; name: string }) {
  const size = modules.length + 2 * QUIET;
  const dark = modules
    .flatMap((row, y) =>
      [...row].map((c, x) => (c === "1" ? `M${x + QUIET} ${y + QUIET}h1v1h-1z` : "")),
    )
    .join("");
  return (
    <svg
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={name}
      shapeRendering="crispEdges"
      className="w-full max-w-72"
    >
      <rect width={size} height={size} fill="#fff" />
      <path d={dark} fill="#000" />
    </svg>
  );
}

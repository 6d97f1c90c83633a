import type { Schemas } from "../api/client";

/** Figures with their labels; what the machine cannot do is marked. */
export function Figures({ figures }: { figures: Schemas["FigureOut"][] }) {
  return (
    <dl className="text-lesser">
      {figures.map(({ label, text, wrong }) => (
        <div
          key={label}
          className={`border-t border-line py-1.5 ${wrong ? "border-l-4 border-l-oxide bg-oxide-bg px-2" : ""}`}
        >
          <dt className="text-fine text-soft">{label}</dt>
          <dd>{text}</dd>
        </div>
      ))}
    </dl>
  );
}

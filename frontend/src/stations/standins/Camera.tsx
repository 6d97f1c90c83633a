import { type KeyboardEvent, useCallback, useRef, useState } from "react";

import type { StandIn } from "../../api/standIns";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { markText, seenMark } from "./seenMark";
import { useDrag } from "./useDrag";
import { useGoal } from "./useGoal";

const [WIDTH, HEIGHT, APART] = [320, 110, 62];
// Rows of the picture in which the marks are looked for.
const [TOP, BOTTOM] = [62, 96];
// Marks that it turns on between two pictures at most.
const FASTEST = 0.12;
const [FEWEST, MOST] = [2, 1000];
// Pictures without a mark, after which it is not known any more which one it was.
const UNSEEN = 3;

type Light = "good" | "poor" | "dirt";
const LIGHTS: [Light, string][] = [
  ["good", "good"],
  ["poor", "poor"],
  ["dirt", "oil over the mark"],
];

/** A camera over a printed disc. The picture is drawn, and the mark is then looked for in its pixels. */
export function Camera({ one }: { one: StandIn }) {
  const [typed, setTyped] = useState("57");
  const [light, setLight] = useState<Light>("good");
  const [seen, setSeen] = useState<number | null>(1);
  const last = useRef<number | null>(null);
  const unseen = useRef(0);
  const paper = useRef<HTMLCanvasElement>(null);
  const count = Math.round(Number(typed));
  const wrong = !(count >= FEWEST && count <= MOST);
  const marks = wrong ? 57 : count;
  const read = useCallback(
    (at: number) => {
      const picture = paper.current?.getContext("2d", { willReadFrequently: true });
      if (!picture) return;
      draw(picture, at, marks, light);
      const mark = seenMark(columnsOf(picture), marks, last.current);
      // Unseen for longer it may have gone on by any number of marks.
      unseen.current = mark === null ? unseen.current + 1 : 0;
      if (mark !== null || unseen.current >= UNSEEN) last.current = mark;
      setSeen(mark);
      one.say({ mark: mark === null ? null : Number(markText(mark, marks, 3)) });
    },
    [one, marks, light],
  );
  const disc = useGoal(FASTEST, read);
  const text = (digits: number) =>
    seen === null ? "mark not known" : `mark ${markText(seen, marks, digits)}`;
  const rest = () => disc.to(Math.round(disc.where()));
  const drag = useDrag((right, _, width) => disc.by((right / width) * (WIDTH / APART)), rest);
  const step = (by: number) => {
    disc.by(by);
    rest();
  };
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    step(by);
  };
  return (
    <>
      <canvas
        {...drag}
        ref={paper}
        width={WIDTH}
        height={HEIGHT}
        role="slider"
        tabIndex={0}
        aria-label="Disc"
        aria-valuenow={Math.round(disc.at) + 1}
        aria-valuetext={text(1)}
        onKeyDown={keys}
        className="block w-full cursor-ew-resize border border-line"
      />
      <p className="text-center font-mono">{text(2)}</p>
      <div className="mt-1 grid grid-cols-2 gap-1">
        <Button onClick={() => step(-1)}>−1 mark</Button>
        <Button onClick={() => step(1)}>+1 mark</Button>
      </div>
      <div className="mt-2 flex gap-2">
        <TextField
          label="Marks of the disc"
          value={typed}
          onChange={(next) => {
            setTyped(next);
            last.current = null;
          }}
          numeric
          problem={wrong ? `Enter ${FEWEST} to ${MOST}.` : undefined}
        />
        <Choice label="Light" value={light} options={LIGHTS} change={setLight} />
      </div>
    </>
  );
}

/** What the camera sees: the edge of the disc with its marks, the first one broad, and the pointer above them. */
function draw(picture: CanvasRenderingContext2D, at: number, marks: number, light: Light) {
  const [paper, ink] = light === "poor" ? ["#8d8a80", "#5a5852"] : ["#efece0", "#23262b"];
  picture.fillStyle = "#c9ccd0";
  picture.fillRect(0, 0, WIDTH, HEIGHT);
  picture.fillStyle = paper;
  picture.fillRect(0, 26, WIDTH, HEIGHT - 26);
  picture.fillStyle = ink;
  picture.textAlign = "center";
  picture.font = "13px monospace";
  for (let n = Math.floor(at) - 4; n <= Math.ceil(at) + 4; n++) {
    // Turned on, the marks go to the right: the next one comes from the left.
    const x = WIDTH / 2 - (n - at) * APART;
    const number = (((n % marks) + marks) % marks) + 1;
    const wide = number === 1 ? 9 : 4;
    picture.fillRect(x - wide / 2, 52, wide, 48);
    picture.fillText(String(number), x, 46);
  }
  if (light === "dirt") {
    picture.fillStyle = "#1d1b18";
    picture.beginPath();
    picture.ellipse(WIDTH / 2 + 8, 78, 46, 30, 0.2, 0, 2 * Math.PI);
    picture.fill();
  }
  picture.fillStyle = "#a0492c";
  picture.beginPath();
  picture.moveTo(WIDTH / 2 - 8, 8);
  picture.lineTo(WIDTH / 2 + 8, 8);
  picture.lineTo(WIDTH / 2, 26);
  picture.fill();
}

/** How bright each column of the marks' rows is on average, 0 to 255, with the grain that every camera has. */
function columnsOf(picture: CanvasRenderingContext2D): number[] {
  const { data } = picture.getImageData(0, TOP, WIDTH, BOTTOM - TOP);
  return Array.from({ length: WIDTH }, (_, x) => {
    let sum = 0;
    for (let y = 0; y < BOTTOM - TOP; y++) sum += data[(y * WIDTH + x) * 4 + 1]!;
    return sum / (BOTTOM - TOP) + (Math.random() - 0.5) * 8;
  });
}

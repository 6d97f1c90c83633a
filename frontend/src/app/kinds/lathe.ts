import { useOnLathe } from "../../api/lathe";
import type { KindWords } from "./kind";

export const LATHE_WORDS: KindWords<"lathe"> = {
  kind: "lathe",
  title: "Lathe",
  plan: "Plan a thread",
  example: "M14x2, 26 tpi",
  pages: [
    { path: "chart", name: "Chart", title: "Chart" },
    { path: "unknown", name: "Constants", title: "Constants" },
    { path: "plate", name: "Plate", title: "Plate" },
  ],
  keys: [{ key: "v", does: "the quadrant, or the thread in its nut" }],
  plate: {
    title: "Plate",
    lines: "Lines of the plate, as they stand",
    begins: "Pitch",
    examples: ["20 tpi 30 60", "1.25 mm 40/50 30/70", "1 20/80-40/60 II B"],
  },
  help: {
    says: [
      "Type the thread or feed that you want: M14x2, 26 tpi, feed 0.1.",
      "The list shows the trains that your wheels can make, the one with the least work first, and what the error does to a nut.",
      "The drawing shows whether a train fits, and the sheet tells shaft by shaft what goes where.",
    ],
    words: [
      "nut runs free",
      "driver, driven, idler",
      "locked pair",
      "check before cutting",
      "slip",
    ],
    sketch: {
      wheels: [
        [36, 22, 15, "40"],
        [66, 34, 17, "50"],
        [104, 44, 21, "80"],
      ],
      lines: ["M125 44 H158", "M130 39 l4 10 M138 39 l4 10 M146 39 l4 10"],
    },
  },
  useOnNow: useOnLathe,
};

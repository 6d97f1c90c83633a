import { useOnHobber } from "../../api/hobber";
import type { KindWords } from "./kind";

export const HOBBER_WORDS: KindWords<"hobber"> = {
  kind: "hobber",
  title: "Hobber",
  plan: "Plan a wheel",
  example: "37, hob 24 m2",
  pages: [
    { path: "chart", name: "Chart", title: "Counts" },
    { path: "plate", name: "Table", title: "Table" },
  ],
  keys: [],
  plate: {
    title: "Table",
    lines: "Lines of the table",
    begins: "Teeth",
    examples: ["31: 24/31", "feed 0.5 mm 40/60", "diff 2 15° 35/34"],
  },
  help: {
    says: [
      "Type the wheel that you want to hob: 37, hob 24 m2, with its helix where it has one.",
      "Index, differential and feed trains are found together from one set of wheels.",
      "A count without an exact train is made up by the differential where the machine has one.",
    ],
    words: [
      "index train, feed train, differential train",
      "index constant",
      "made up by the differential",
      "run-off",
      "reversing pair",
    ],
    sketch: {
      wheels: [
        [24, 36, 12, "24"],
        [47, 36, 11, "37"],
        [80, 36, 11],
        [102, 36, 11],
        [131, 36, 9],
        [149, 36, 9],
      ],
      words: [
        [35, 66, "Index"],
        [91, 66, "Differential"],
        [140, 66, "Feed"],
      ],
    },
  },
  useOnNow: useOnHobber,
};

import { useOnMill } from "../../api/mill";
import type { KindWords } from "./kind";

export const MILL_WORDS: KindWords<"mill"> = {
  kind: "mill",
  title: "Mill",
  plan: "Plan a helix",
  example: "helix 24 m2 30° left, lead 300 mm",
  pages: [
    { path: "chart", name: "Leads", title: "Leads" },
    { path: "plate", name: "Table", title: "Table" },
  ],
  keys: [{ key: "v", does: "the next drawing" }],
  plate: {
    title: "Table",
    lines: "Lines of the table",
    begins: "Lead",
    examples: ["360 mm 48/48", "90 1:2 48/24"],
  },
  help: {
    says: [
      "Type the helix that you want to mill: helix 24 m2 30° left, or a lead in mm or inches.",
      "The wheels between table and head are found, with the way the table is swung.",
      "The drawing from above shows whether the table clears the column.",
    ],
    words: ["lead", "worm pair", "turned", "swing", "mate"],
    sketch: {
      plates: [[20, 24, 100, 26]],
      lines: [
        "M28 50 L52 24",
        "M48 50 L72 24",
        "M68 50 L92 24",
        "M88 50 L112 24",
        "M6 37 H20",
        "M120 37 H154",
      ],
    },
  },
  useOnNow: useOnMill,
};

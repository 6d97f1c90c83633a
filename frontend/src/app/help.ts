import type { Help } from "./helpText";
import type { Topic } from "./pages";
import { PLANNED, type KindName } from "./planned";

/** Rows of a table, as lines. */
const rows = (count: number, left: number, right: number) =>
  Array.from({ length: count }, (_, n) => `M${left} ${16 + n * 14} H${right}`);

const OF_KINDS = Object.fromEntries(PLANNED.map(({ kind, help }) => [kind, help])) as Record<
  KindName,
  Help
>;

export const HELP: Record<Topic, Help> = {
  ...OF_KINDS,
  day: {
    says: [
      "What is to be done is put into the order in which least is changed on each machine.",
      "Enter one to a line, as in the ask line; each goes to the machine that does it.",
      "Each step tells what changes, and nothing else. Done puts it into the log.",
    ],
    words: ["driver, driven, idler", "put on"],
    sketch: {
      wheels: [
        [24, 36, 14, "1"],
        [80, 36, 14, "2"],
        [136, 36, 14, "3"],
      ],
      lines: ["M42 36 H60 M56 32 L60 36 L56 40", "M98 36 H116 M112 32 L116 36 L112 40"],
    },
  },
  chart: {
    says: [
      "Every usual size in one table: which come out exactly with the wheels held, which are good enough, which are not.",
      "Choose a line to plan it.",
      "The wheel that would help most is named beneath, with what it would bring.",
    ],
    words: ["exact, good, poor", "result", "error", "room not checked"],
    sketch: {
      lines: [...rows(4, 12, 148), "M52 8 V64 M104 8 V64"],
      words: [
        [32, 13, "1.25"],
        [78, 13, "40/50"],
        [126, 13, "exact"],
        [32, 27, "1.5"],
        [78, 27, "60/50"],
        [126, 27, "exact"],
        [32, 41, "1.75"],
        [78, 41, "63/57"],
        [126, 41, "good"],
      ],
    },
  },
  constants: {
    says: [
      "What a machine does not tell can be found by turning it and measuring.",
      "Type what you turned, what moved and how exactly you measured.",
      "The figures that agree with every reading are listed, and a button puts the chosen one in the record.",
    ],
    words: ["guess, measured", "not known", "less sure"],
    sketch: {
      lines: [
        "M16 46 H144",
        ...Array.from({ length: 17 }, (_, n) => `M${16 + n * 8} 46 v${n % 4 ? 6 : 11}`),
        "M32 38 V18 M112 38 V18 M32 24 H112",
      ],
      words: [[72, 19, "10 turns"]],
    },
  },
  table: {
    says: [
      "Type or paste the lines of the machine’s own plate or table as they stand: what is wanted, then the wheels.",
      "The lines together give the constant of the machine, what each lever does and which wheels its maker supplied.",
      "A line that does not agree with the others is named, with what would make it agree.",
    ],
    words: ["machine plate, table", "approximate", "position"],
    sketch: {
      plates: [[24, 8, 112, 56]],
      words: [
        [56, 24, "20 tpi"],
        [106, 24, "30 60"],
        [56, 40, "24 tpi"],
        [106, 40, "25 60"],
        [56, 56, "32 tpi"],
        [106, 56, "25 80"],
      ],
    },
  },
  rack: {
    says: [
      "Every wheel of the shop hangs here: type what lies in a box, and it is on record.",
      "Choose a wheel to change where it lies, what state it is in, or to find out what it is.",
      "Choose several to change them together.",
    ],
    words: ["Add to rack", "missing", "profile shift"],
    sketch: {
      wheels: [
        [28, 36, 14, "32"],
        [62, 36, 17, "40"],
        [102, 36, 20, "48"],
      ],
      missing: [[140, 36, 14, "57"]],
      lines: ["M8 8 H152"],
    },
  },
  sets: {
    says: [
      "A maker’s list is compared with the wheels that you hold.",
      "Type or paste the list; counts may repeat.",
      "What is missing, what is double and what is beyond the list is told.",
    ],
    words: ["Add to rack"],
    sketch: {
      wheels: [
        [28, 36, 14, "20"],
        [62, 36, 15, "25"],
        [132, 36, 18, "35"],
      ],
      missing: [[96, 36, 16, "30"]],
    },
  },
  stores: {
    says: [
      "Form cutters and pieces of bar that are held.",
      "A cutter is entered as it is engraved: pitch, angle, range, number.",
      "The counts that can be cut, and the places of a set of eight that are empty, are told.",
    ],
    words: ["piece"],
    sketch: {
      wheels: [[44, 36, 22, "55–134"]],
      plates: [[92, 24, 56, 24]],
      lines: ["M98 24 V48"],
    },
  },
  wheel: {
    says: [
      "Type a count and a pitch: every size of the wheel, from blank to span.",
      "The cutter that forms it, what it leaves, and what a measured span says of the depth are told.",
      "A job to make it begins here.",
    ],
    words: ["job", "profile shift", "rollers or balls"],
    sketch: {
      wheels: [[60, 36, 27, "57"]],
      lines: ["M60 9 H132 M60 63 H132 M126 9 V63"],
      words: [[146, 39, "∅"]],
    },
  },
  dividing: {
    says: [
      "Type how many divisions, or an angle: 57, divide 22.5°.",
      "Every way that the shop’s heads, collet blocks, wheels and discs can give it is listed, the least trouble first.",
      "Turns and holes are told for each division, and what error a way leaves.",
    ],
    words: ["flats", "error"],
    sketch: {
      wheels: [[36, 36, 28]],
      lines: [
        ...Array.from({ length: 15 }, (_, n) => {
          const turn = (n / 15) * 2 * Math.PI;
          const [x, y] = [36 + 21 * Math.cos(turn), 36 + 21 * Math.sin(turn)];
          return `M${(x - 1).toFixed(1)} ${y.toFixed(1)} h2`;
        }),
        "M36 36 L57 36 M36 36 L27 17",
      ],
      words: [[114, 40, "2 turns 4 holes"]],
    },
  },
  disc: {
    says: [
      "Discs with marks and hole plates for any count, at true size.",
      "Print one on paper, or take it as a drawing file.",
      "Check its measuring line with a rule before it is used.",
    ],
    words: ["error"],
    sketch: {
      wheels: [[80, 36, 28, "57"]],
      lines: Array.from({ length: 24 }, (_, n) => {
        const turn = (n / 24) * 2 * Math.PI;
        const at = (r: number) =>
          `${(80 + r * Math.cos(turn)).toFixed(1)} ${(36 + r * Math.sin(turn)).toFixed(1)}`;
        return `M${at(23)} L${at(28)}`;
      }),
    },
  },
  jobs: {
    says: [
      "A job is a wheel to be made: its blank, how it is held, how it is divided and cut.",
      "Each step waits for its figure and tells when one is out of its limits.",
      "What was found at each step is kept in the log of the job.",
    ],
    words: ["job", "school", "open step", "log"],
    sketch: {
      lines: ["M16 20 l4 5 l8 -10 M16 40 l4 5 l8 -10", "M38 20 H140 M38 40 H120"],
      plates: [[14, 52, 14, 10]],
      words: [[78, 61, "Measure the span"]],
    },
  },
  session: {
    says: [
      "The cutting, tooth by tooth: what to turn now, how deep, and which tooth is next.",
      "Every move is on record before the next is shown, so that a dropped line or a flat battery loses nothing.",
      "Where the count is in doubt, Lost tells how to find it again.",
    ],
    words: ["session", "pass", "marks round", "touch off", "last gap"],
    sketch: {
      wheels: [[36, 36, 26, "12"]],
      lines: ["M36 5 V10 M36 5 l-4 -3 M36 5 l4 -3"],
      words: [[114, 40, "2 turns 4 holes"]],
    },
  },
  devices: {
    says: [
      "An encoder, a scale or a foot switch can tell where the work stands.",
      "Connect it and choose its session, or play a stand-in in the page.",
      "A reading counts only where its meaning is certain.",
    ],
    words: ["set anew", "overtaken", "stand-in", "key of a device"],
    sketch: {
      wheels: [[36, 36, 20]],
      plates: [[104, 22, 44, 28]],
      lines: ["M56 36 H104", "M36 36 V18"],
      words: [[126, 40, "12.00"]],
    },
  },
  today: {
    says: [
      "What is on each machine and since when, what is being made, what was done last.",
      "A set-up that is pinned stands here, one tap away.",
      "What is typed in the line above goes to its own station.",
    ],
    words: ["put on", "pin", "job"],
    sketch: {
      plates: [
        [8, 10, 66, 22],
        [86, 10, 66, 22],
        [8, 42, 66, 22],
        [86, 42, 66, 22],
      ],
      words: [
        [40, 25, "M14x2"],
        [118, 25, "37"],
      ],
    },
  },
  book: {
    says: [
      "What is on record of one machine, and what the log says of it.",
      "Readings of its lead stand together: each may agree, and all of them lie to one side.",
      "The set-ups that are put on most may be pinned.",
    ],
    words: ["reading", "pin", "ppm"],
    sketch: {
      lines: [
        "M16 44 H150",
        "M30 18 V38 M56 24 V44 M82 16 V36 M108 22 V42 M134 18 V38",
        "M27 28 h6 M53 34 h6 M79 26 h6 M105 32 h6 M131 28 h6",
      ],
    },
  },
  log: {
    says: [
      "What was put on, what was done and how it came out, day by day.",
      "The program writes by itself what it knows. How a thread came out is one tap beside its sheet.",
      "A wrong entry is struck through with a reason. Nothing is erased.",
    ],
    words: ["put on", "correction"],
    sketch: {
      lines: rows(4, 40, 150),
      words: [
        [20, 20, "8:05"],
        [20, 48, "9:40"],
      ],
    },
  },
  machines: {
    says: [
      "Everything that is known of a machine, and what is not.",
      "Open its record to change a figure, or its plate to compare it.",
      "A machine is added from its plate, from its papers or by measuring.",
    ],
    words: ["not known", "guess, measured", "example", "fitted"],
    sketch: {
      plates: [
        [10, 12, 62, 48],
        [88, 12, 62, 48],
      ],
      lines: ["M18 36 H60 M18 46 H50 M96 36 H138 M96 46 H128"],
      words: [
        [41, 27, "Lathe"],
        [119, 27, "Hobber"],
      ],
    },
  },
  record: {
    says: [
      "What is on record of a machine, field by field, as it is typed.",
      "Leave empty what is not known: the program says what it cannot answer without it.",
      "Save tells every fault at its field and loses nothing.",
    ],
    words: ["stud, slot, quadrant", "first shaft, last shaft", "guess, measured", "not known"],
    sketch: {
      plates: [
        [62, 10, 84, 14],
        [62, 30, 84, 14],
        [62, 50, 84, 14],
      ],
      words: [
        [36, 21, "Screw"],
        [36, 41, "Wheels"],
        [36, 61, "Slot"],
      ],
    },
  },
};

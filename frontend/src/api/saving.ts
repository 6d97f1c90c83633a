import { Refusal, type Schemas } from "./client";
import { Shared } from "./shared";

type Versions = Record<string, number>;

/** What was changed by somebody else was left as it is. */
export class TheirsStands extends Error {
  constructor() {
    super("Not saved: the other change stands.");
  }
}

interface Question {
  sides: Schemas["Side"][];
  answer: (mine: boolean) => void;
}

/** Whose change is to stand, where two people changed the same; asked by the dialog. */
export const conflict = new Shared<Question | null>(null);

/** Save, and where somebody else changed the same meanwhile, ask whose change is to stand. `write` gets the versions to
 * send: none at first, then those that are there now. Throws TheirsStands where the other one is to stand. */
export async function saving<T>(write: (now?: Versions) => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.status !== 409 || !error.problem.sides?.length)
      throw error;
    const { sides, versions = {} } = error.problem;
    const mine = await new Promise<boolean>((answer) => conflict.set({ sides, answer }));
    conflict.set(null);
    if (!mine) throw new TheirsStands();
    return saving(() => write(versions));
  }
}

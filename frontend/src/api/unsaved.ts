import { Shared } from "./shared";

/** How many forms of this page hold something that is typed and not saved. */
export const unsaved = new Shared(0);

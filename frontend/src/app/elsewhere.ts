import { Shared } from "../api/shared";

/** Whether the dialog stands that takes this page to another device. */
export const pageElsewhere = new Shared(false);

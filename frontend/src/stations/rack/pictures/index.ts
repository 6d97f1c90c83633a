/** Drawn photographs of the demo's wheels, with their bores: for trying it where no camera is. */
import avocet from "./avocet-71.jpg";
import curlew from "./curlew-33.jpg";
import heron from "./heron-40-28.jpg";
import greasy from "./plover-57-greasy.jpg";
import plover from "./plover-57.jpg";

export const PICTURES = [
  { title: "A wheel for Plover", bore: "7/8 in", address: plover },
  { title: "The same, greasy", bore: "7/8 in", address: greasy },
  { title: "A broken tooth", bore: "8 mm", address: curlew },
  { title: "At a tilt", bore: "25 mm", address: avocet },
  { title: "Two of Heron’s", bore: "22 mm", address: heron },
];

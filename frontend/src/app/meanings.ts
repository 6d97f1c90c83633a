import wordList from "../../../docs/words.md?raw";

/** Terms of the project's list of words with what they mean. */
export const MEANINGS: ReadonlyMap<string, string> = new Map(
  wordList
    .split("\n")
    .filter((line) => line.startsWith("| "))
    .map((line) => line.split("|").map((cell) => cell.trim()))
    .map(([, term = "", meaning = ""]): [string, string] => [term, meaning]),
);

// A contender's colour, second to its letter: Okabe and Ito 2008, told apart by colour-blind eyes
// too.
const COLOURS = [
  "#0072b2",
  "#d55e00",
  "#009e73",
  "#cc79a7",
  "#e69f00",
  "#56b4e9",
  "#000000",
  "#7a6a00",
];
const LETTERS = "ABCDEFGHIJKLMNOPQRSVWXYZ";

/** Empty for truth and unprocessed, which are outlined. */
export function colourOf(letter: string): string {
  const at = letter ? LETTERS.indexOf(letter) : -1;
  return at < 0 ? "" : (COLOURS[at % COLOURS.length] ?? "");
}

// What changed between two releases, in words and digits that mean something.
import type { Shape } from "@/api/client";
import { shareText } from "@/studies/compare/questions/questions";

type Cell = Shape["ReleaseCellOut"];
type Spread = Shape["BoundedValueOut"];

const sizeText = ([w, h]: readonly number[]): string => `${w} × ${h} px`;

/** What a frame's pictures have to say, shortest first. */
export function changeText(cell: Cell): string {
  if (cell.problem) return cell.problem;
  if (cell.same) return "The same file to the pixel.";
  const told = [
    `${shareText(cell.changed)} of the pixels differ by a level of 255 or more; root mean square ${cell.rms.toFixed(2)} levels, ${cell.most.toFixed(1)} at the place shown.`,
  ];
  if (cell.moved) told.push(`It lies ${cell.moved.toFixed(2)} px otherwise.`);
  const [was, is] = cell.sizes ?? [];
  if (was && is) told.push(`It is ${sizeText(is)} after ${sizeText(was)}.`);
  return told.join(" ");
}

export const runsText = (runs: number): string => (runs === 1 ? "once" : `${runs} times`);

/** The middle of several runs, with the least and the greatest where they differ. */
export function spreadText(of: Spread | null | undefined, put: (value: number) => string): string {
  if (!of) return "–";
  const middle = put(of.value);
  return of.low === of.high ? middle : `${middle} (${put(of.low)} to ${put(of.high)})`;
}

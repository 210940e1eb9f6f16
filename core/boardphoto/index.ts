/**
 * Proposes the parts of a board from a straightened photo: packages of known sizes, the die, round holes; each with how sure it is.
 *
 * Model: log brightness, so that slow changes of light add a slope only; signed edges on all four sides of a rectangle (template matching
 * over sums along rows and columns); circles by voting along gradients (Hough transform: Duda & Hart 1972; gradient direction: Kimme et al.
 * 1975, both from memory); rows and mirror pairs speak for each other. Units: mm from the board's lower-left corner, y up. Limits: sides
 * within a degree or so of the photo's, parts darker than the board around them; proposals are to be looked at, not believed.
 */
export type { Proposal } from "./propose.ts";
export { proposeParts } from "./propose.ts";

import { text } from "../text";

// unitWord is the word for so many of a unit: one piece, two pieces, 20 g.
export const unitWord = (unit: string, n: number) => text.units[unit]?.[n === 1 ? 0 : 1] ?? unit;

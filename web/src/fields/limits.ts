/** Longest name that a design may hold [characters]. */
export const LONGEST_NAME = 200

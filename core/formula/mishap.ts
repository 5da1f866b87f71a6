/** Why a formula has no value in a row, in a few words: division by zero. Other rows have theirs. */
export class Mishap extends Error {}

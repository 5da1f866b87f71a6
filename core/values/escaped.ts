/** A text as it stands in a regular expression, also in one with the flag u or v. */
export const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');

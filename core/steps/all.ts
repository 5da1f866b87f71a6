// Every step kind, one line each; everything else about the kinds is derived from this list.
export { carryValuesDown } from './carry-values-down';
export { cropBetweenMarks } from './crop-between-marks';
export { dropBlankRows } from './drop-blank-rows';
export { dropRepeatedHeadings } from './drop-repeated-headings';
export { holdTotals } from './hold-totals';
export { liftSections } from './lift-sections';
export { pickColumns } from './pick-columns';
export { promoteHeaderRows } from './promote-header-rows';
export { rename } from './rename';
export { setTypes } from './set-types';
export { siftRows } from './sift-rows';
export { stamp } from './stamp';
export { trimRows } from './trim-rows';

import { height, holdsCentre, width, type Box } from '../page/box';
import type { PageContent } from '../page/page';

/** A picture that may hold a table takes at least these parts of its page's width and height; a logo or a rule takes less. */
const leastWidth = 0.25;
const leastHeight = 0.05;
/** With more words over it than this, what it shows is text already. */
const mostWords = 2;

/** Pictures large enough to hold a table, with no text over them: what they show cannot be read as text. */
export const picturesWithoutText = ({ pictures, words, width: wide, height: high }: PageContent): Box[] =>
  pictures
    .map(({ box }) => box)
    .filter(
      (box) =>
        width(box) >= leastWidth * wide &&
        height(box) >= leastHeight * high &&
        words.filter((word) => holdsCentre(box, word.box)).length <= mostWords,
    );

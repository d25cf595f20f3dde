/** Names that people give: what they may hold, and how they are cut. */

/** Control characters, invisible marks of writing direction, and halves of characters: they make names that lie or cannot be stored. */
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u2028-\u202e\u2066-\u2069\p{Cs}]/u;
const ALL_UNSEEN = new RegExp(UNSEEN, 'gu');

/** Whether a text serves as a name: something to see, and nothing that cannot be seen. */
export const isName = (text: string): boolean => /[^\s\p{Cf}]/u.test(text) && !UNSEEN.test(text);

/** Whether a text serves as the name of a file: a name without separators of folders. */
export const isFileName = (text: string): boolean => isName(text) && !/[/\\]/.test(text) && !/^\.{1,2}$/.test(text);

/** A text without what a name must not hold. */
export const cleanName = (text: string): string => text.replace(ALL_UNSEEN, ' ').trim();

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** The beginning of a text, cut between characters as they are seen. @param length in UTF-16 units, as the length of a string is */
export function shorten(text: string, length: number): string {
  if (text.length <= length) return text;
  let end = 0;
  for (const { index, segment } of segmenter.segment(text)) {
    if (index + segment.length > length) break;
    end = index + segment.length;
  }
  return text.slice(0, end).trimEnd();
}

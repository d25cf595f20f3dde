import type { MaskOwner } from '@umbo/core/document';
import type { MaskPart } from '@umbo/core/mask';

/** What an editor of a part's own settings is given. */
export interface PartProps<P extends MaskPart> {
  layer: MaskOwner;
  part: P;
  preview: (values: Partial<P>) => void;
  /** @param words for the history, such as "Pick: tolerance 8" */
  commit: (words: string, values: Partial<P>) => void;
  cancel: () => void;
}

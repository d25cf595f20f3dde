/** What can go wrong by the caller's doing; the web turns it into a problem response. The message is a sentence for people. */
export type ProblemKind = 'invalid' | 'not-found' | 'conflict' | 'refused' | 'later';

export class Problem extends Error {
  readonly kind: ProblemKind;
  /** Facts beside the sentence, such as the current revision. */
  readonly details: Readonly<Record<string, unknown>>;
  constructor(kind: ProblemKind, message: string, details: Record<string, unknown> = {}) {
    super(message);
    this.name = 'Problem';
    this.kind = kind;
    this.details = details;
  }
}

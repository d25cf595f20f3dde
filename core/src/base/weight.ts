/** How much of what makes documents heavy some settings hold. */
export interface Weight {
  /** Numbers in strokes. */
  readonly strokes?: number;
  /** Dabs that strokes are made of. */
  readonly dabs?: number;
  /** Characters in tables. */
  readonly tables?: number;
}

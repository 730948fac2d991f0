/** From sure to unsure. */
export const lookAlikeClasses = ['text', 'joined', 'number', 'order', 'function', 'spelling'] as const;
export type LookAlikeClass = (typeof lookAlikeClasses)[number];
/** Those by which two texts are the same search in other clothes: other forms and orders of their words. */
export const sameSearchClasses: readonly LookAlikeClass[] = ['text', 'number', 'order', 'function'];

/** The pool in columns; `searchesOf` gives -1 for no figure. */
export type LookAlikePool = {
  length: number;
  normOf: (at: number) => string;
  searchesOf: (at: number) => number;
};

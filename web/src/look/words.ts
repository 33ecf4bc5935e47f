/** A word or a sentence with a capital. */
export const capital = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);

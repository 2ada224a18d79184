/** Words with a capital at their beginning, as a sentence has it. */
export const asSentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

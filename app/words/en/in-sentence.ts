/** Words that begin a line, within a sentence: `Cold store, about +2 °C` keeps its degrees, `UV lamp` its letters. */
export const inSentence = (words: string): string =>
  /^\p{Lu}\p{Lu}/u.test(words) ? words : words.charAt(0).toLowerCase() + words.slice(1)

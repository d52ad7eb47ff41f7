/** Letters of a written reason; an ideograph counts as two, as the server counts it. What they say, nobody counts. */
export function lettersOf(text: string): number {
  return [...text].reduce((sum, each) => sum + (IDEOGRAPH.test(each) ? 2 : /\p{L}/u.test(each) ? 1 : 0), 0)
}

const IDEOGRAPH = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u

/** A reason this short says nothing; whether a longer one does, the server decides. */
export const LEAST_LETTERS = 20
